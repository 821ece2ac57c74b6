'use client';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  LinearProgress,
  Switch,
  Typography,
} from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import { FIGURE_NAMES } from '@lantern/motion';
import { useMemo, useState } from 'react';
import { DataTable } from '@/controls/DataTable';
import { numeral } from '@/controls/Figure';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { changesIn, type TakePair } from '@/data/delivery';
import type { ClipMoved } from '@/worker/redelivery';
import { OUTCOMES } from './MovedClips';
import { useDeliveries, type Delivered } from './use-deliveries';

/** Several takes that came in again, as a whole day solved anew: one report of what has changed, to accept by clip or all at once. */
export function DayDelivery({ pairs: asked, onClose }: { pairs: readonly TakePair[]; onClose: () => void }) {
  const { pairs, done, delivered, accept } = useDeliveries(asked, onClose);
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const [isBusy, setBusy] = useState(false);
  const found = delivered?.filter((own) => own.found) ?? [];
  const moved = found.flatMap((own) => own.found?.clips ?? []);
  const accepted = moved.filter(({ id, outcome }) => outcome !== 'lost' && !kept.has(id)).length;
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="deliveries-title">
      <DialogTitle id="deliveries-title" sx={{ fontFamily: 'Alegreya', pb: 0.5 }}>
        {pairs.length} {pairs.length === 1 ? 'take' : 'takes'} delivered anew
      </DialogTitle>
      <DialogContent>
        {!delivered && (
          <Box sx={{ py: 3 }}>
            <Typography sx={{ mb: 1 }} role="status">
              Looking for “{pairs[Math.min(done, pairs.length - 1)].old.name}” in its new delivery: {done} of {pairs.length} done
            </Typography>
            <LinearProgress variant="determinate" value={(100 * done) / pairs.length} aria-label="Matching the takes" />
          </Box>
        )}
        {delivered && <Report delivered={delivered} kept={kept} onKeep={setKept} />}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button color="inherit" onClick={onClose}>
          {delivered ? 'Leave all as it is' : 'Stop'}
        </Button>
        {found.length > 0 && (
          <Button
            variant="contained"
            disabled={isBusy}
            onClick={() => {
              setBusy(true);
              void accept(kept).finally(() => setBusy(false));
            }}
          >
            Accept {found.length} {found.length === 1 ? 'take' : 'takes'}
            {moved.length > 0 && `, with ${accepted} of ${moved.length} ${moved.length === 1 ? 'clip' : 'clips'}`}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

type Row = ClipMoved & { readonly name: string; readonly take: string; readonly changes: string };

function Report({
  delivered,
  kept,
  onKeep,
}: {
  delivered: readonly Delivered[];
  kept: ReadonlySet<string>;
  onKeep: (kept: ReadonlySet<string>) => void;
}) {
  const docs = useClips((state) => state.docs);
  const [isAll, setAll] = useState(false);
  const problems = delivered.filter(({ problem }) => problem !== null);
  const rows = useMemo(() => rowsOf(delivered, docs), [delivered, docs]);
  const told = useMemo(() => rows.filter(({ outcome, changes }) => changes !== '' || outcome === 'lost' || outcome === 'moved'), [rows]);
  const movable = rows.filter(({ outcome }) => outcome !== 'lost').map(({ id }) => id);
  const shown = isAll ? rows : told;
  return (
    <>
      {problems.map(({ old, problem }) => (
        <Typography key={old.id} role="alert" variant="body2" sx={{ my: 0.5 }}>
          <span aria-hidden>▲ </span>
          <strong>
            “{old.name}”: {problem}
          </strong>{' '}
          The new one stays in the list as a take of its own.
        </Typography>
      ))}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Typography sx={{ flex: 1 }} role="status">
          {saidOf(rows, told.length)}
        </Typography>
        {rows.length > told.length && (
          <FormControlLabel
            control={<Switch size="small" checked={isAll} onChange={(_, on) => setAll(on)} />}
            label={`all ${rows.length}`}
          />
        )}
      </Box>
      {shown.length > 0 && (
        <Box sx={{ maxHeight: 380, overflow: 'auto' }}>
          <DataTable
            isWhole
            label="Clips of the old takes"
            rows={shown}
            columns={COLUMNS}
            choosing={{
              chosen: new Set(movable.filter((id) => !kept.has(id))),
              onChoose: (chosen) => onKeep(new Set(movable.filter((id) => !chosen.has(id)))),
              nameOf: ({ name }) => `Cut ${name} from the new take`,
              all: 'Cut all from the new takes',
              isChoosable: (id) => movable.includes(id),
            }}
          />
        </Box>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        With the takes go their markers, props, names, tags and notes, and the runners-up of drafted sets. Clips that are not ticked stay
        with the old takes, which are called “(earlier)” from then on. Undo takes takes and clips back; runners-up stay with the new ones.
      </Typography>
    </>
  );
}

const rowsOf = (delivered: readonly Delivered[], docs: readonly ClipDoc[]): Row[] =>
  delivered.flatMap(({ old, found }) =>
    (found?.clips ?? []).map((clip) => ({
      ...clip,
      name: docs.find(({ id }) => id === clip.id)?.name ?? '',
      take: old.name,
      changes: changesIn(clip)
        .map(({ figure, before, after }) => `${FIGURE_NAMES[figure]}: ${numeral(before, 2)} → ${numeral(after, 2)}`)
        .join(' · '),
    })),
  );

function saidOf(rows: readonly Row[], told: number): string {
  if (rows.length === 0) return 'No clip is cut from the old takes.';
  const found = rows.filter(({ outcome }) => outcome !== 'lost').length;
  const all = `${found} of ${rows.length} ${rows.length === 1 ? 'clip is' : 'clips are'} in the new takes.`;
  return told === 0 ? `${all} None has changed by more than two solves differ by anyway.` : `${all} ${told} to look at:`;
}

const COLUMNS: readonly GridColDef<Row>[] = [
  { field: 'name', headerName: 'Clip', flex: 1, minWidth: 130, renderCell: ({ value }) => <strong>{value as string}</strong> },
  { field: 'take', headerName: 'Take', width: 130 },
  { field: 'outcome', headerName: 'In the new take', width: 140, valueFormatter: (outcome: ClipMoved['outcome']) => OUTCOMES[outcome] },
  { field: 'changes', headerName: 'What has changed', flex: 2, minWidth: 220 },
];
