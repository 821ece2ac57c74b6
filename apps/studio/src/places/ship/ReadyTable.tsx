'use client';
import MoreHorizIcon from '@mui/icons-material/MoreHoriz';
import { Box, LinearProgress, Link as Words, Menu, MenuItem, Tooltip, Typography, useMediaQuery, useTheme } from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import type { SetBounds } from '@lantern/motion';
import Link from 'next/link';
import { memo, useMemo, useState } from 'react';
import { DataTable } from '@/controls/DataTable';
import { Sign } from '@/controls/Sign';
import { TypedNumber } from '@/controls/TypedNumber';
import { usePlayer } from '@/data/player';
import { PoseStrip } from '@/timeline/PoseStrip';
import { READY_COLUMNS, type ReadyColumn } from './columns';
import { HairFigure } from './HairFigure';
import type { ReadyClip } from './use-readiness';

/** Heights of a row, and of one that says what is wrong with it, pixels. */
const ROW = 43;
const ROW_WITH_TROUBLE = 63;

export interface RowActs {
  readonly onMirror: (ids: readonly string[]) => void;
  readonly onRetime: (ids: readonly string[]) => void;
}

interface Props extends RowActs {
  readonly clips: readonly ReadyClip[];
  readonly bounds: SetBounds;
  /** Null where there is no set that could keep them. */
  readonly onBounds: ((change: Partial<SetBounds>) => void) | null;
  readonly shipped: ReadonlySet<string>;
  readonly onShipped: (ids: ReadonlySet<string>) => void;
  readonly project: string;
}

/** Where a clip is worked on: on the Bench, or with the joins. */
export const placeOf = (project: string, { row }: ReadyClip): string => `/${project}/${row.kind === 'clip' ? 'bench' : 'joins'}/${row.id}`;

/** Every clip as it would leave, each figure beside its bound; under those that are not ready stands what to do. */
export function ReadyTable({ clips, bounds, onBounds, shipped, onShipped, project, onMirror, onRetime }: Props) {
  const isWide = useMediaQuery(useTheme().breakpoints.up('lg'));
  // The same from one ticked box to the next: cells whose clip did not change are not drawn again.
  const columns = useMemo(
    () => columnsOf(bounds, onBounds, project, { onMirror, onRetime }),
    [bounds, onBounds, project, onMirror, onRetime],
  );
  return (
    <DataTable
      label="Readiness"
      rows={clips}
      columns={columns}
      rowHeight={ROW}
      rowHeightOf={heightOf}
      headHeight={46}
      hidden={isWide ? undefined : ['strip', 'seconds', 'sizeKb', 'sinkCm']}
      choosing={{
        look: 'lamps',
        chosen: shipped,
        onChoose: onShipped,
        nameOf: ({ name }) => `Ship ${name}`,
        all: 'Ship all clips',
        isChoosable: (id) => clips.find((own) => own.id === id)?.row.state !== 'failed',
      }}
      empty="No clip is like that."
    />
  );
}

const heightOf = (row: ReadyClip): number => (saysOf(row) ? ROW_WITH_TROUBLE : ROW);

/** What is wrong with a clip, and what to do, in a line; null where it is ready, or not measured yet. */
export function saysOf({ row, troubles: [worst, ...others] }: ReadyClip): string | null {
  if (row.state === 'failed') return row.message ?? 'It could not be made.';
  if (!worst) return null;
  return `${worst.says} ${worst.todo}${others.length > 0 ? ` And ${others.length} more out of bounds.` : ''}`;
}

function columnsOf(bounds: SetBounds, onBounds: Props['onBounds'], project: string, acts: RowActs): GridColDef<ReadyClip>[] {
  return [
    {
      field: 'name',
      headerName: 'clip',
      flex: 1,
      minWidth: 118,
      renderHeader: () => (
        <Box sx={{ lineHeight: 1.25 }}>
          <Box sx={{ color: 'text.primary' }}>clip</Box>
          <Box sx={{ fontSize: 12.5 }}>bounds</Box>
        </Box>
      ),
      cellClassName: 'beyond',
      renderCell: ({ row }) => <ClipCell clip={row} project={project} />,
    },
    {
      field: 'strip',
      headerName: '',
      width: 94,
      sortable: false,
      renderCell: ({ row }) => row.row.about?.strip && <PoseStrip strip={row.row.about.strip} height={36} />,
    },
    ...READY_COLUMNS.map((column, i): GridColDef<ReadyClip> => ({
      field: column.figure,
      headerName: column.head,
      type: 'number',
      width: column.width,
      sortingOrder: ['desc', 'asc', null],
      valueGetter: (_, { held }) => held[i]?.value ?? null,
      valueFormatter: String,
      renderHeader: () => <BoundHead column={column} bounds={bounds} onBounds={onBounds} />,
      renderCell: ({ row }) =>
        row.held[i] ? (
          <HairFigure held={row.held[i]} digits={column.digits} />
        ) : column.figure === 'speed' && row.row.state !== 'failed' ? (
          <LinearProgress aria-label={`Measuring ${row.name}`} sx={{ width: '100%', mt: 1 }} />
        ) : null,
    })),
    {
      field: 'more',
      headerName: '',
      width: 30,
      sortable: false,
      renderCell: ({ row }) => <More clip={row} project={project} {...acts} />,
    },
  ];
}

/** The name of a figure over its bound, which is typed and kept with the set. */
function BoundHead({
  column: { head, means, bound },
  bounds,
  onBounds,
}: {
  column: ReadyColumn;
  bounds: SetBounds;
  onBounds: Props['onBounds'];
}) {
  const shown = bounds[bound.key] * bound.times;
  return (
    <Box sx={{ lineHeight: 1.25, textAlign: 'right' }}>
      <Tooltip title={means}>
        <Box sx={{ color: 'text.primary' }}>{head}</Box>
      </Tooltip>
      {/* The head sorts on a click: what is typed into it is not meant for that. */}
      <Box
        onClick={(event) => event.stopPropagation()}
        onKeyDown={(event) => event.stopPropagation()}
        sx={{
          display: 'flex',
          justifyContent: 'flex-end',
          fontSize: 12.5,
          '& input, & span': { fontSize: '12.5px !important' },
          '& input': { textAlign: 'right' },
        }}
      >
        {onBounds ? (
          <TypedNumber
            name={`Bound of ${head}`}
            value={shown}
            unit={bound.unit}
            least={0}
            most={bound.most}
            step={bound.step}
            digits={bound.digits}
            width={bound.most > 1000 ? 30 : 24}
            onChange={(value) => onBounds({ [bound.key]: value / bound.times })}
          />
        ) : (
          `${shown.toFixed(bound.digits)} ${bound.unit}`
        )}
      </Box>
    </Box>
  );
}

const ClipCell = memo(function ClipCell({ clip, project }: { clip: ReadyClip; project: string }) {
  const { row, who, name, troubles } = clip;
  const says = saysOf(clip);
  const loops = row.about?.figures.loop;
  return (
    <Box sx={{ alignSelf: 'flex-start', minWidth: 0, width: '100%', lineHeight: 1.2, pt: 0.3 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', minWidth: 0 }}>
        <Words component={Link} href={placeOf(project, clip)} underline="hover" color="textPrimary" noWrap sx={{ fontWeight: 500 }}>
          {name}
        </Words>
        {row.since === 'changed' || row.since === 'new' ? (
          <Tooltip title={row.since === 'new' ? 'New since it last shipped' : `Since it last shipped: ${row.why.join(', ')}`}>
            <Box
              component="span"
              aria-label={row.since === 'new' ? 'new' : 'changed'}
              sx={{ color: 'text.secondary', fontWeight: 400, fontSize: 12.5, ml: 0.7 }}
            >
              {row.since}
            </Box>
          </Tooltip>
        ) : null}
      </Box>
      <Typography component="div" noWrap sx={{ fontSize: 12.5, color: 'text.secondary', lineHeight: 1.2 }}>
        {who}, {row.kind === 'join' ? 'join' : loops === undefined ? '…' : loops ? 'loop' : 'once'}
      </Typography>
      {says && (
        <Box
          className="says"
          sx={{
            position: 'absolute',
            left: 0,
            bottom: 1,
            display: 'flex',
            gap: 1.5,
            whiteSpace: 'nowrap',
            fontSize: 13.5,
            maxWidth: 'calc(100cqw - 60px)',
          }}
        >
          <Typography component="span" noWrap sx={{ fontSize: 'inherit', minWidth: 0 }} title={says}>
            {row.state === 'failed' && '▲ '}
            {says}
          </Typography>
          <Words
            component={Link}
            href={placeOf(project, clip)}
            onClick={() => sendToWorst(clip)}
            sx={{ fontWeight: 700, flexShrink: 0, color: 'text.primary' }}
          >
            repair {row.kind === 'clip' ? `on the Bench${troubles[0]?.frame ? `, frame ${troubles[0].frame}` : ''}` : 'it'}
          </Words>
        </Box>
      )}
    </Box>
  );
});

/** The Bench opens the clip where it is worst. */
export function sendToWorst({ row, troubles }: ReadyClip): void {
  const frame = troubles.find((own) => own.frame !== null)?.frame;
  if (frame === undefined || frame === null || !row.about) return;
  usePlayer.setState({ next: Math.round(frame / row.about.scale) });
}

const More = memo(function More({ clip, project, onMirror, onRetime }: { clip: ReadyClip; project: string } & RowActs) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const act = (run: () => void) => () => {
    setAnchor(null);
    run();
  };
  const isClip = clip.row.kind === 'clip';
  return (
    <>
      <Sign name={`More for ${clip.name}`} expanded={anchor !== null} onClick={(event) => setAnchor(event.currentTarget)}>
        <MoreHorizIcon />
      </Sign>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem dense component={Link} href={placeOf(project, clip)} onClick={() => sendToWorst(clip)}>
          {clip.troubles.length > 0 ? 'Repair where it is worst' : 'Open'}
        </MenuItem>
        {isClip && (
          <MenuItem dense onClick={act(() => onMirror([clip.id]))}>
            Make the other side
          </MenuItem>
        )}
        {isClip && (
          <MenuItem dense onClick={act(() => onRetime([clip.id]))}>
            Let time go slower or quicker …
          </MenuItem>
        )}
      </Menu>
    </>
  );
});
