'use client';
import { Typography } from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import { DataTable } from '@/controls/DataTable';
import { numeral } from '@/controls/Figure';
import type { ClipMoved } from '@/worker/redelivery';

interface Props {
  readonly clips: readonly ClipMoved[];
  readonly nameOf: (id: string) => string;
  /** Clips that stay with the old take. */
  readonly kept: ReadonlySet<string>;
  readonly onKeep: (kept: ReadonlySet<string>) => void;
}

type MovedRow = ClipMoved & { readonly name: string };

/** The clips that are cut from a take, each with where it lies in the new delivery and how its figures change. */
export function MovedClips({ clips, nameOf, kept, onKeep }: Props) {
  if (clips.length === 0) return <Typography sx={{ mt: 1 }}>No clip is cut from the old take.</Typography>;
  const movable = clips.filter(({ outcome }) => outcome !== 'lost').map(({ id }) => id);
  return (
    <DataTable
      isWhole
      label="Clips of the old take"
      rows={clips.map((clip) => ({ ...clip, name: nameOf(clip.id) }))}
      columns={COLUMNS}
      choosing={{
        chosen: new Set(movable.filter((id) => !kept.has(id))),
        onChoose: (chosen) => onKeep(new Set(movable.filter((id) => !chosen.has(id)))),
        nameOf: ({ name }) => `Cut ${name} from the new take`,
        all: 'Cut all from the new take',
        isChoosable: (id) => movable.includes(id),
      }}
    />
  );
}

/** Where a clip is in the new take, in words. */
export const OUTCOMES: Record<ClipMoved['outcome'], string> = {
  same: 'found',
  changed: 'found, solved anew',
  moved: 'found elsewhere',
  lost: '▲ not in it',
};

/** A figure as it was and as it becomes; once where it stays. */
function change(key: 'speedMps' | 'slideCm' | 'tick', head: string, digits: number): GridColDef<MovedRow> {
  return {
    field: key,
    headerName: head,
    type: 'number',
    width: 104,
    valueGetter: (_, { before, after }) => after?.[key] ?? before?.[key] ?? null,
    renderCell: ({ row: { before, after } }) => {
      const [was, is] = [before, after].map((figures) => (figures ? numeral(figures[key], digits) : '–'));
      return was === is || !after ? was : `${was} → ${is}`;
    },
  };
}

const COLUMNS: readonly GridColDef<MovedRow>[] = [
  { field: 'name', headerName: 'Clip', flex: 1, minWidth: 120, renderCell: ({ value }) => <strong>{value as string}</strong> },
  { field: 'outcome', headerName: 'In the new take', width: 140, valueFormatter: (outcome: ClipMoved['outcome']) => OUTCOMES[outcome] },
  {
    field: 'from',
    headerName: 'Frames',
    type: 'number',
    width: 92,
    renderCell: ({ row: { outcome, from, to } }) => (outcome === 'lost' ? '–' : `${from}–${to}`),
  },
  {
    field: 'differenceCm',
    headerName: 'Poses, cm',
    type: 'number',
    width: 84,
    renderCell: ({ row: { outcome, differenceCm } }) => (outcome === 'lost' ? '–' : differenceCm.toFixed(1)),
  },
  change('speedMps', 'Speed, m/s', 2),
  change('slideCm', 'Slide, cm', 2),
  change('tick', 'Tick', 2),
];
