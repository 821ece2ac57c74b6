'use client';
import { LinearProgress, Link as Words, Typography, useMediaQuery, useTheme } from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import Link from 'next/link';
import { useMemo } from 'react';
import { BOUNDS, isOut, type Bounded } from '@/data/bounds';
import type { ClipDoc } from '@/data/clips-store';
import { DataTable } from '@/controls/DataTable';
import { FigureValue } from '@/controls/Figure';
import { PoseStrip } from '@/timeline/PoseStrip';
import { figureOf, troublesOf } from './figures';
import type { Readiness } from './use-readiness';

interface ClipRow extends Readiness {
  readonly id: string;
  readonly name: string;
  readonly href: string;
}

/** The figures of a clip as it leaves, with what their short heads mean. */
const FIGURES: readonly { key: Bounded; width: number; head: string; unit: string; digits: number; means?: string }[] = [
  { key: 'poseCm', width: 62, head: 'Seam', unit: 'cm', digits: 2 },
  { key: 'tick', width: 50, head: 'Tick', unit: '', digits: 2 },
  { key: 'slideCm', width: 62, head: 'Slide', unit: 'cm', digits: 2, means: 'Foot slide: how far a bearing foot moves' },
  { key: 'sinkCm', width: 54, head: 'Sink', unit: 'cm', digits: 1, means: 'How deep a sole goes below the floor' },
  { key: 'hoverCm', width: 56, head: 'Hover', unit: 'cm', digits: 1, means: 'How high a bearing foot is over its ground' },
  { key: 'driftCm', width: 54, head: 'Drift', unit: 'cm', digits: 1 },
  { key: 'kink', width: 56, head: 'Kink', unit: '×', digits: 2, means: 'Largest jerk of a knee or an elbow, over the take’s own' },
  {
    key: 'likenessCm',
    width: 58,
    head: 'Off',
    unit: 'cm',
    digits: 1,
    means: 'Farthest that a joint is from the take, pose laid over pose',
  },
];

/** Pictures and lengths give way to figures where there is little room. */
const NARROW_HIDES = ['strip', 'seconds'];
/** A row without figures says why across all of them. */
const ACROSS = FIGURES.length + 2;

/** Every clip with its figures against the set's bounds; a click on a head sorts by that figure, the first order is worst first. */
export function ReadinessTable({
  docs,
  readiness,
  left,
  setLeft,
  project,
}: {
  docs: readonly ClipDoc[];
  readiness: readonly Readiness[];
  left: ReadonlySet<string>;
  setLeft: (left: ReadonlySet<string>) => void;
  project: string;
}) {
  const isWide = useMediaQuery(useTheme().breakpoints.up('lg'));
  const rows = useMemo(
    () =>
      docs
        .map(({ id, name }, i): ClipRow => ({ id, name, href: `/${project}/bench/${id}`, ...readiness[i] }))
        .sort((a, b) => troublesOf(b) - troublesOf(a)),
    [docs, readiness, project],
  );
  return (
    <DataTable
      label="Readiness"
      rows={rows}
      columns={COLUMNS}
      rowHeight={isWide ? 54 : 36}
      hidden={isWide ? undefined : NARROW_HIDES}
      choosing={{
        chosen: new Set(docs.map(({ id }) => id).filter((id) => !left.has(id))),
        onChoose: (chosen) => setLeft(new Set(docs.map(({ id }) => id).filter((id) => !chosen.has(id)))),
        nameOf: ({ name }) => `Ship ${name}`,
        all: 'All clips',
      }}
    />
  );
}

const COLUMNS: readonly GridColDef<ClipRow>[] = [
  {
    field: 'name',
    headerName: 'Clip',
    flex: 1,
    minWidth: 100,
    renderCell: ({ row }) => (
      <Words component={Link} href={row.href} underline="hover" color="textPrimary" sx={{ fontWeight: 500 }}>
        {row.name}
      </Words>
    ),
  },
  {
    field: 'strip',
    headerName: '',
    width: 158,
    sortable: false,
    renderCell: ({ row }) => row.strip && <PoseStrip strip={row.strip} />,
  },
  {
    field: 'seconds',
    headerName: 'Length',
    type: 'number',
    width: 52,
    valueGetter: (_, { figures }) => figures?.seconds ?? null,
    renderCell: ({ value }) => <FigureValue value={value as number | null} unit="s" digits={2} />,
  },
  {
    field: 'speedMps',
    headerName: 'Speed',
    type: 'number',
    width: 62,
    colSpan: (_, row) => (row.isPending || row.error ? ACROSS : 1),
    valueGetter: (_, { figures }) => figures?.speedMps ?? null,
    renderCell: ({ row, value }) =>
      row.error ? (
        <Typography variant="body2">▲ {row.error}</Typography>
      ) : row.isPending ? (
        <LinearProgress aria-label={`Measuring ${row.name}`} sx={{ width: '100%' }} />
      ) : (
        <FigureValue value={value as number | null} unit="m/s" digits={2} />
      ),
  },
  ...FIGURES.map(({ key, width, head, unit, digits, means }): GridColDef<ClipRow> => ({
    field: key,
    headerName: head,
    description: means,
    type: 'number',
    width,
    valueGetter: (_, row) => figureOf(row, key),
    renderCell: ({ value }: { value?: number | null }) => {
      const out = typeof value === 'number' && isOut(key, value);
      return <FigureValue value={value} unit={unit} digits={digits} out={out} todo={out ? BOUNDS[key].todo : undefined} />;
    },
  })),
];
