'use client';
import { Typography } from '@mui/material';
import {
  DataGrid,
  GridRow,
  GridRowCheckbox,
  useGridApiContext,
  useGridApiRef,
  type DataGridProps,
  type GridApi,
  type GridRowProps,
  type GridSlotProps,
  type MuiEvent,
} from '@mui/x-data-grid';
import { ErrorBoundary } from 'react-error-boundary';
import { useEffect, useMemo, type HTMLAttributes, type KeyboardEvent, type MouseEvent } from 'react';
import type { Named, TableProps } from './table-props';
import { chart } from './theme';

declare module '@mui/x-data-grid' {
  interface RowPropsOverrides {
    /** Id of the row that is open. */
    openRow?: string | null;
    attributes?: (id: string) => HTMLAttributes<HTMLElement> & Readonly<Record<`data-${string}`, string>>;
  }
  interface NoRowsOverlayPropsOverrides {
    says?: string;
  }
  interface RowCheckboxPropsOverrides {
    nameOf?: (row: Named) => string;
  }
}

/**
 * A table: sorts by a click on a head (again: the other way, again: as it came), chooses ranges with Shift, goes by keys, draws only
 * the rows that are in sight. Every row carries its name for screen readers.
 */
export function TableGrid<Row extends Named>(props: TableProps<Row>) {
  const {
    label,
    rows,
    columns,
    rowHeight = 36,
    rowHeightOf,
    headHeight = 32,
    open = null,
    choosing,
    onOpen,
    onKey,
    attributes,
    hidden = NONE,
    empty = '',
    isWhole,
  } = props;
  const api = useGridApiRef();
  useEffect(() => {
    if (open !== null) showRow(api.current, open);
  }, [api, open, rows.length]);
  const heights = useMemo((): DataGridProps['getRowHeight'] => rowHeightOf && (({ model }) => rowHeightOf(model as Row)), [rowHeightOf]);
  const visibility = useMemo(() => Object.fromEntries(hidden.map((field) => [field, false])), [hidden]);
  const between = (a: string, b: string): string[] => {
    const ids = (api.current?.getSortedRowIds() ?? []).map(String);
    const ends = [ids.indexOf(a), ids.indexOf(b)];
    return ids.slice(Math.min(...ends), Math.max(...ends) + 1);
  };
  const click = (row: Row, event: MouseEvent) => {
    if (choosing && event.shiftKey && open !== null) choosing.onChoose(new Set([...choosing.chosen, ...between(open, row.id)]));
    else if (choosing && (event.ctrlKey || event.metaKey)) api.current?.selectRow(row.id, !choosing.chosen.has(row.id), false);
    else onOpen?.(row);
  };
  const key = (row: Row, event: MuiEvent<KeyboardEvent<HTMLElement>>) => {
    // A key that was meant for a button or a field in the row is theirs.
    if ((event.target as HTMLElement).getAttribute('role') !== 'gridcell' || event.ctrlKey || event.metaKey || event.altKey) return;
    // The grid would go a page down; everywhere else it plays.
    if (event.key === ' ' && !event.shiftKey) event.defaultMuiPrevented = true;
    const ids = api.current?.getSortedRowIds() ?? [];
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const next = step && rows.find(({ id }) => id === ids[ids.indexOf(row.id) + step]);
    if (next) onOpen?.(next);
    else if (event.key === 'Enter') onOpen?.(row);
    else if (event.key === 'x' && choosing) api.current?.selectRow(row.id, !choosing.chosen.has(row.id), false);
    else if (!onKey?.(event.key, row)) return;
    else event.preventDefault();
  };
  const selection: Partial<DataGridProps<Row>> = choosing
    ? {
        checkboxSelection: true,
        checkboxColDef: choosing.look === 'lamps' ? { width: 30, minWidth: 30 } : undefined,
        rowSelectionModel: { type: 'include', ids: new Set(choosing.chosen) },
        // Rows that are searched away stay chosen.
        keepNonExistentRowsSelected: true,
        onRowSelectionModelChange: ({ type, ids }) => {
          const here = rows.map(({ id }) => id).filter((id) => !ids.has(id));
          choosing.onChoose(new Set(type === 'include' ? [...ids].map(String) : here));
        },
        isRowSelectable: ({ id }) => choosing.isChoosable?.(String(id)) ?? true,
      }
    : { rowSelection: false };
  return (
    <DataGrid<Row>
      apiRef={api}
      aria-label={label}
      rows={rows}
      columns={columns}
      rowHeight={rowHeight}
      columnHeaderHeight={headHeight}
      getRowHeight={heights}
      rowBufferPx={ROOM}
      autoHeight={isWhole}
      columnVisibilityModel={visibility}
      hideFooter
      disableColumnMenu
      disableColumnFilter
      disableRowSelectionOnClick
      sortingOrder={ORDERS}
      onRowClick={({ row }, event) => click(row, event)}
      onCellKeyDown={({ row }, event) => key(row, event)}
      localeText={{ checkboxSelectionSelectAllRows: choosing?.all, checkboxSelectionUnselectAllRows: choosing?.all }}
      {...selection}
      slots={{ row: TableRow, noRowsOverlay: NoRows, rowCheckbox: RowTick }}
      slotProps={{
        row: { openRow: open, attributes },
        noRowsOverlay: { says: empty },
        rowCheckbox: { nameOf: choosing?.nameOf },
      }}
      sx={[LOOK, choosing?.look === 'lamps' && LAMPS, { cursor: onOpen ? 'pointer' : undefined }]}
    />
  );
}

/** A row that can be called by its name. */
function TableRow({ openRow, attributes, ...props }: GridRowProps & Pick<GridSlotProps['row'], 'openRow' | 'attributes'>) {
  const id = String(props.rowId);
  const { name } = props.row as Named;
  return (
    <ErrorBoundary fallback={<BrokenRow name={name} />} resetKeys={[props.row]}>
      <GridRow {...props} {...attributes?.(id)} aria-label={name} aria-current={id === openRow || undefined} />
    </ErrorBoundary>
  );
}

/** Stands where a row cannot be drawn; the others go on. */
function BrokenRow({ name }: { name: string }) {
  return (
    <Typography role="row" aria-label={name} variant="body2" noWrap sx={{ px: 1.5, py: 1, borderBottom: `1px solid ${chart('rule')}` }}>
      <span role="gridcell">▲ “{name}” cannot be shown: something of it is not as it should be.</span>
    </Typography>
  );
}

function RowTick({ nameOf, slotProps, ...props }: GridSlotProps['rowCheckbox']) {
  const api = useGridApiContext();
  const row = api.current.getRow<Named>(props.rowId);
  const name = (row && nameOf?.(row)) ?? undefined;
  return <GridRowCheckbox {...props} slotProps={{ ...slotProps, htmlInput: { ...slotProps?.htmlInput, 'aria-label': name } }} />;
}

function NoRows({ says }: GridSlotProps['noRowsOverlay']) {
  return (
    <Typography color="text.secondary" sx={{ p: 2 }}>
      {says}
    </Typography>
  );
}

/** Scrolls a row into sight without moving the keyboard's place. */
function showRow(api: GridApi | null, id: string): void {
  const rowIndex = api?.getSortedRowIds().indexOf(id) ?? -1;
  if (rowIndex >= 0) api?.scrollToIndexes({ rowIndex });
}

/** Rows drawn beyond what is in sight, pixels: a wheel finds them there. */
const ROOM = 800;
const NONE: readonly string[] = [];
const ORDERS = ['asc', 'desc', null] as const;

/** A tick box as a lamp: lit while its row is chosen. */
const LAMPS = {
  '& .MuiDataGrid-checkboxInput': {
    p: 0.8,
    '& svg': { display: 'none' },
    '&::before': { content: '""', width: 11, height: 11, borderRadius: '50%', border: `1.2px solid ${chart('faint')}`, flexShrink: 0 },
    '&.Mui-checked::before': { bgcolor: chart('lamp'), borderColor: chart('lampText') },
    '&.MuiCheckbox-indeterminate::before': {
      background: `linear-gradient(90deg, ${chart('lamp')} 50%, transparent 50%)`,
      borderColor: chart('lampText'),
    },
  },
} as const;

const LOOK = {
  border: 0,
  fontSize: 15,
  bgcolor: 'transparent',
  userSelect: 'none',
  '& .MuiDataGrid-columnHeader, & .MuiDataGrid-cell': { px: 0.8 },
  '& .MuiDataGrid-columnHeaderTitleContainerContent': { overflow: 'visible' },
  '& .MuiDataGrid-cellCheckbox, & .MuiDataGrid-columnHeaderCheckbox': { px: 0 },
  // What is written across a row begins in a cell and goes beyond it.
  '& .MuiDataGrid-virtualScroller': { containerType: 'inline-size' },
  '& .MuiDataGrid-cell.beyond': { overflow: 'visible', position: 'relative', zIndex: 1 },
  '& .MuiDataGrid-columnHeaderTitle': { fontWeight: 400, fontSize: 13.5, color: chart('faint') },
  '& .MuiDataGrid-checkboxInput': { color: chart('faint'), '&.Mui-checked': { color: chart('ink') }, '& svg': { fontSize: 19 } },
  // A tick says that a row is chosen; the tint is for the one that is open.
  '& .MuiDataGrid-row.Mui-selected': { bgcolor: 'transparent' },
  '& .MuiDataGrid-row:hover, & .MuiDataGrid-row.Mui-selected:hover': { bgcolor: 'action.hover' },
  '& .MuiDataGrid-row[aria-current=true], & .MuiDataGrid-row[aria-current=true]:hover': { bgcolor: chart('lampSoft') },
  // Where a column is made wider: seen when one is about to.
  '& .MuiDataGrid-columnSeparator': { color: chart('rule'), opacity: 0 },
  '& .MuiDataGrid-columnHeaders:hover .MuiDataGrid-columnSeparator': { opacity: 1 },
} as const;
