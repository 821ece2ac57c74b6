'use client';
import StarIcon from '@mui/icons-material/Star';
import StarBorderIcon from '@mui/icons-material/StarBorder';
import { Box, ButtonBase, TextField, Typography } from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import { useCallback, useMemo, useState } from 'react';
import type { TakeInfo } from '@/data/project';
import { DataTable } from '@/controls/DataTable';
import { chart } from '@/controls/theme';
import { useWidth } from '@/timeline/use-width';
import { answers } from './answers';
import { PathThumb } from './PathThumb';
import { rate } from './rate';
import { useStar } from './use-star';

interface Props {
  readonly takes: readonly TakeInfo[];
  readonly open: string | null;
  readonly chosen: ReadonlySet<string>;
  readonly onOpen: (id: string) => void;
  readonly onChoose: (ids: ReadonlySet<string>) => void;
  readonly onRemove: (takes: readonly TakeInfo[]) => void;
}

/** All takes of the project: sorts, searches, chooses several, and goes by keys. */
export function TakeTable({ takes, open, chosen, onOpen, onChoose, onRemove }: Props) {
  const [search, setSearch] = useState('');
  const [under, setUnder] = useState<string | null>(null);
  const shown = useMemo(() => takes.filter((take) => answers(take, search)), [takes, search]);
  const [ref, width] = useWidth<HTMLDivElement>();
  const star = useStar();
  const keys: Readonly<Record<string, (takes: readonly TakeInfo[]) => void>> = { '*': star, Delete: onRemove };
  /** Keys work on all that are chosen when the row is one of them. */
  const act = (key: string, take: TakeInfo) => {
    keys[key]?.(takes.filter(({ id }) => (chosen.has(take.id) ? chosen.has(id) : id === take.id)));
    return key in keys;
  };
  const attributes = useCallback(
    (id: string) => ({
      'data-take': id,
      onDragOver: () => setUnder(id),
      onDragLeave: () => setUnder(null),
      onDrop: () => setUnder(null),
      style: under === id ? UNDER : undefined,
    }),
    [under],
  );
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, height: '100%' }}>
      <TextField
        placeholder="search names, #tags, notes, * starred, ! with warnings"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
        sx={{ mx: 1.5, mb: 0.8, '& input': { py: '5px', fontSize: 14 } }}
        slotProps={{ htmlInput: { 'aria-label': 'Search takes' } }}
      />
      <Box ref={ref} sx={{ minHeight: 0, flex: 1 }}>
        <DataTable
          label="Takes"
          rows={shown}
          columns={COLUMNS}
          rowHeight={48}
          open={open}
          choosing={{ chosen, onChoose, nameOf: ({ name }) => `Choose ${name}`, all: 'Choose all' }}
          onOpen={({ id }) => onOpen(id)}
          onKey={act}
          attributes={attributes}
          hidden={hiddenAt(width)}
          empty="No take answers to that."
        />
      </Box>
    </Box>
  );
}

/** Columns that have no room in so many pixels; 0 before the width is known. */
const hiddenAt = (width: number): readonly string[] | undefined =>
  width === 0 || width >= 400 ? undefined : width >= 335 ? ['stature'] : ['stature', 'fps'];

/** A take that a file is held over: it would be the take's new delivery. */
const UNDER = { backgroundColor: chart('lampSoft'), outline: `2px solid ${chart('lamp')}`, outlineOffset: -2 };

const COLUMNS: readonly GridColDef<TakeInfo>[] = [
  {
    field: 'path',
    headerName: 'Way',
    width: 48,
    sortable: false,
    renderHeader: () => null,
    display: 'flex',
    renderCell: ({ row }) => <PathThumb path={row.path} />,
  },
  { field: 'name', headerName: 'Take', flex: 1, minWidth: 96, renderCell: ({ row }) => <NameCell take={row} /> },
  {
    field: 'seconds',
    headerName: 'Length',
    type: 'number',
    width: 82,
    valueGetter: (_, { passport }) => passport.seconds,
    valueFormatter: length,
  },
  {
    field: 'fps',
    headerName: 'Rate',
    type: 'number',
    width: 58,
    valueGetter: (_, { passport }) => passport.fps,
    valueFormatter: (fps: number) => `${rate(fps)} /s`,
  },
  {
    field: 'stature',
    headerName: 'Stature',
    type: 'number',
    width: 70,
    valueGetter: (_, { passport }) => passport.statureM,
    valueFormatter: (metres: number) => `${metres.toFixed(2)} m`,
  },
];

function NameCell({ take }: { take: TakeInfo }) {
  const star = useStar();
  const warnings = take.passport.warnings.length;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', justifyContent: 'center', height: '100%', lineHeight: 1.25 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <Typography noWrap title={take.name} sx={{ fontWeight: 500, lineHeight: 1.25, '[aria-current] &': { fontWeight: 700 } }}>
          {take.name}
        </Typography>
        <ButtonBase
          disableRipple
          tabIndex={-1}
          aria-label={take.star ? `Take the star from ${take.name}` : `Star ${take.name}`}
          aria-pressed={take.star}
          onClick={(event) => {
            event.stopPropagation();
            star([take]);
          }}
          sx={{ color: take.star ? chart('lampText') : 'text.secondary', px: 0.3 }}
        >
          {take.star ? <StarIcon sx={{ fontSize: 17 }} /> : <StarBorderIcon sx={{ fontSize: 17 }} />}
        </ButtonBase>
      </Box>
      {(warnings > 0 || take.tags.length > 0) && (
        <Typography variant="caption" color="text.secondary" noWrap component="div">
          {[...(warnings > 0 ? [`▲ ${warnings}`] : []), ...take.tags.map((tag) => `#${tag}`)].join('  ')}
        </Typography>
      )}
    </Box>
  );
}

function length(seconds: number): string {
  if (seconds < 99.95) return `${seconds.toFixed(1)} s`;
  const [minutes, rest] = [Math.floor(Math.round(seconds) / 60), Math.round(seconds) % 60];
  if (minutes < 100) return `${minutes}:${String(rest).padStart(2, '0')} min`;
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')} h`;
}
