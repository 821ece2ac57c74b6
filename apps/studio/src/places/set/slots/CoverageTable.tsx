'use client';
import type { SlotReport } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import { SlotMark, STATE_WORDS, isLit } from './marks';
import { COLUMNS, rowsOf, type Column, type Row } from './table-layout';

interface Props {
  readonly reports: readonly SlotReport[];
  readonly nameOf: (clip: string | null, report: SlotReport) => string;
  readonly shotOf: (slot: string) => number | undefined;
  readonly onChoose: (slot: string | null) => void;
  readonly onOpen: (report: SlotReport, anchor: Element) => void;
}

const GRID = 'minmax(94px, 2.2fr) repeat(8, minmax(38px, 1fr))';
const HATCH = `repeating-linear-gradient(135deg, transparent 0 5px, ${chart('rule')} 5px 6px)`;

/** So narrow, the unit stands in the head alone. */
const NARROW = '@container (max-width: 480px)';

/** Everything that is no loop: by gait, foot and angle, each with its one figure. */
export function CoverageTable({ reports, nameOf, shotOf, onChoose, onOpen }: Props) {
  const rows = rowsOf(reports);
  return (
    <Box
      role="table"
      aria-label="Idles, turns, starts, stops, pivots, flights and steps"
      sx={{ minHeight: 0, overflow: 'auto', containerType: 'inline-size' }}
    >
      <Box
        role="row"
        sx={{
          display: 'grid',
          gridTemplateColumns: GRID,
          alignItems: 'end',
          position: 'sticky',
          top: 0,
          bgcolor: 'background.default',
          zIndex: 1,
          borderBottom: `1px solid ${chart('ink')}`,
          pb: 0.4,
        }}
      >
        <Typography role="columnheader" variant="caption" color="text.secondary" sx={{ fontStyle: 'italic', lineHeight: 1.15 }}>
          ends off the home pose
          <Box component="span" sx={{ display: 'none', [NARROW]: { display: 'inline' } }}>
            , cm
          </Box>
        </Typography>
        {COLUMNS.map((column) => (
          <Box key={column} role="columnheader" aria-label={column} sx={{ gridColumn: 'span 2', textAlign: 'center' }}>
            <Typography variant="body2" sx={{ lineHeight: 1.2 }}>
              <Way column={column} /> {column}
            </Typography>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', fontSize: 12, fontWeight: 700, lineHeight: 1.2 }}>
              <Box component="span" sx={{ color: chart('port') }}>
                ● L
              </Box>
              <Box component="span" sx={{ color: chart('starboard') }}>
                ◆ R
              </Box>
            </Box>
          </Box>
        ))}
      </Box>
      {rows.map((row) => (
        <TableRow key={row.name} row={row} nameOf={nameOf} shotOf={shotOf} onChoose={onChoose} onOpen={onOpen} />
      ))}
    </Box>
  );
}

function TableRow({ row: { name, cells }, nameOf, shotOf, onChoose, onOpen }: { row: Row } & Omit<Props, 'reports'>) {
  const there = cells.filter(({ report }) => report.state === 'filled' || report.state === 'doubted');
  return (
    <Box
      role="row"
      aria-label={name}
      sx={{ display: 'grid', gridTemplateColumns: GRID, borderBottom: `1px solid ${chart('rule')}`, minHeight: 42 }}
    >
      <Box role="rowheader" sx={{ py: 0.4, minWidth: 0, alignSelf: 'center' }}>
        <Typography sx={{ fontWeight: 500, lineHeight: 1.15 }}>{name}</Typography>
        <Typography variant="caption" color="text.secondary" component="div" noWrap sx={{ lineHeight: 1.2 }}>
          {there.length} of {cells.length}
        </Typography>
      </Box>
      {COLUMNS.flatMap((column) =>
        cellsIn(cells, column).map(({ span, found }, i) => (
          <Box
            key={`${column} ${i}`}
            role="cell"
            sx={{
              gridColumn: `span ${span}`,
              display: 'grid',
              placeItems: 'center',
              borderLeft: i === 0 ? `1px solid ${chart('rule')}` : 'none',
              backgroundImage: found?.figure?.isOut && found.state !== 'mirror' ? HATCH : 'none',
            }}
          >
            {found ? (
              <SlotButton report={found} name={nameOf(found.clip, found)} number={shotOf(found.id)} onChoose={onChoose} onOpen={onOpen} />
            ) : (
              <Box component="span" aria-hidden sx={{ color: chart('rule') }}>
                ·
              </Box>
            )}
          </Box>
        )),
      )}
    </Box>
  );
}

function SlotButton({
  report,
  name,
  number,
  onChoose,
  onOpen,
}: { report: SlotReport; name: string; number: number | undefined } & Pick<Props, 'onChoose' | 'onOpen'>) {
  const { state, figure, id } = report;
  const isOut = figure?.isOut === true && isLit(state);
  const words = state === 'missing' ? `shot ${number ?? ''}` : figure ? figure.cm.toFixed(1) : '';
  return (
    <Box
      component="button"
      type="button"
      aria-label={`${name}: ${STATE_WORDS[state]}${figure && state !== 'missing' ? `, ${figure.cm.toFixed(1)} cm${isOut ? ', out of bounds' : ''}` : ''}`}
      onClick={(event) => onOpen(report, event.currentTarget)}
      onPointerEnter={() => onChoose(id)}
      onPointerLeave={() => onChoose(null)}
      onFocus={() => onChoose(id)}
      onBlur={() => onChoose(null)}
      sx={{
        all: 'unset',
        cursor: 'pointer',
        display: 'grid',
        justifyItems: 'center',
        px: 0.3,
        borderRadius: 1,
        '&:focus-visible': { outline: `2px solid ${chart('lamp')}` },
      }}
    >
      <svg width={26} height={24} viewBox="-13 -12 26 24" aria-hidden style={{ overflow: 'visible' }}>
        {isLit(state) && <circle r={15} fill="url(#rose-glow)" />}
        <SlotMark state={state} number={number} size={7.5} />
      </svg>
      <Typography
        component="span"
        variant="caption"
        sx={{
          lineHeight: 1.1,
          whiteSpace: 'nowrap',
          fontWeight: isOut ? 700 : 400,
          color: state === 'mirror' ? 'text.secondary' : 'text.primary',
        }}
      >
        {isOut && '▲ '}
        {words}
        {state !== 'missing' && figure && (
          <Box component="span" sx={{ [NARROW]: { display: 'none' } }}>
            {' '}
            cm
          </Box>
        )}
      </Typography>
    </Box>
  );
}

/** The two halves of a column, or the whole of it where a slot is of either side. */
function cellsIn(cells: Row['cells'], column: Column): { span: 1 | 2; found: SlotReport | undefined }[] {
  const here = cells.filter(({ cell }) => cell.column === column);
  const of = (side: 'left' | 'right' | 'both') => here.find(({ cell }) => cell.side === side)?.report;
  const both = of('both');
  return both
    ? [{ span: 2, found: both }]
    : [
        { span: 1, found: of('left') },
        { span: 1, found: of('right') },
      ];
}

/** How a column's way bends. */
function Way({ column }: { column: Column }) {
  const paths: Readonly<Record<Column, string>> = {
    straight: 'M6 13V2M3 5L6 2L9 5',
    '45°': 'M3 13V8L10 2M6 2H10V6',
    '90°': 'M3 13V5H11M8 2L11 5L8 8',
    '180°': 'M3 13V5A3.5 3.5 0 0 1 10 5V11M7 8L10 11L13 8',
  };
  return (
    <svg width={14} height={14} viewBox="0 0 14 14" aria-hidden style={{ verticalAlign: '-2px' }}>
      <path d={paths[column]} fill="none" stroke="currentColor" strokeWidth={1.4} />
    </svg>
  );
}
