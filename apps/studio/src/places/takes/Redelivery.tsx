'use client';
import { stepsAtRate } from '@lantern/motion';
import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useClips } from '@/data/clips-store';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits } from '@/data/take-edits';
import { sourceOf, takeKey } from '@/data/use-open-take';
import { numeral } from '@/controls/Figure';
import { core } from '@/worker/core';
import type { ClipMoved, Redelivery as Found } from '@/worker/redelivery';
import { DifferenceProfile } from './DifferenceProfile';
import { rate } from './rate';

/** A better solve of a take in use: what was made from the old one and where it lies in the new, to accept clip by clip. */
export function Redelivery({ old, fresh, onClose }: { old: TakeInfo; fresh: TakeInfo; onClose: () => void }) {
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const { edit } = useTakeEdits();
  const docs = useClips((state) => state.docs);
  const clips = docs.filter((doc) => doc.source.take === old.id);
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const { data, error, isPending } = useQuery<Found | { problem: string }>({
    queryKey: ['redelivery', takeKey(old), takeKey(fresh), JSON.stringify([clips, old.markers, old.props])],
    staleTime: Infinity,
    gcTime: 0,
    queryFn: async () => {
      await core().open(sourceOf(old));
      await core().open(sourceOf(fresh));
      const made = {
        clips: clips.map(({ id, source: { from, to }, steps }) => ({ id, recipe: { from, to, steps } })),
        markers: old.markers,
        props: old.props,
      };
      return core().redeliver(takeKey(old), takeKey(fresh), made, project.fps);
    },
  });
  const found = data && !('problem' in data) ? data : null;
  const movable = found?.clips.filter(({ outcome }) => outcome !== 'lost') ?? [];
  const accepted = movable.filter(({ id }) => !kept.has(id));
  const accept = async () => {
    if (!found) return;
    const { name, tags, notes, star } = old;
    const done = await edit(
      `“${name}” redelivered`,
      [
        ...changesOf([old], () => ({ name: `${name} (earlier)` })),
        ...changesOf([fresh], () => ({
          name,
          star,
          notes,
          tags: [...tags],
          markers: [...found.markers],
          props: [...found.props],
        })),
      ],
      accepted.flatMap(({ id, from, to }) => {
        const doc = clips.find((clip) => clip.id === id);
        if (!doc) return [];
        const { source, steps } = doc;
        const factor = (to - from) / (source.to - source.from);
        const after = { source: { take: fresh.id, from, to }, steps: stepsAtRate(steps, factor) };
        return [{ id, before: { source, steps }, after }];
      }),
    );
    if (!done) return;
    enqueueSnackbar(`“${name}” is the new delivery now; the old one stays as “${name} (earlier)”.`);
    router.push(`/${project.id}/takes/${fresh.id}`);
    onClose();
  };
  const toggle = (id: string) => {
    const next = new Set(kept);
    if (!next.delete(id)) next.add(id);
    setKept(next);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="redelivery-title">
      <DialogTitle id="redelivery-title" sx={{ fontFamily: 'Alegreya', pb: 0.5 }}>
        A new delivery of “{old.name}”
      </DialogTitle>
      <DialogContent>
        {isPending && (
          <Box sx={{ py: 3 }}>
            <Typography sx={{ mb: 1 }}>Looking for the old take’s motion in the new one…</Typography>
            <LinearProgress aria-label="Matching the takes" />
          </Box>
        )}
        {(error || (data && 'problem' in data)) && (
          <Typography role="alert" sx={{ my: 1 }}>
            <span aria-hidden>▲ </span>
            <strong>{data && 'problem' in data ? data.problem : 'The takes could not be opened.'}</strong> “{fresh.name}” stays in the list
            as a take of its own; nothing made from “{old.name}” has changed.
          </Typography>
        )}
        {found && (
          <>
            <Typography sx={{ mb: 0.5 }}>{saidOf(found, old, fresh)}</Typography>
            <Doubts found={found} fresh={fresh} />
            <DifferenceProfile values={found.profile} seconds={old.passport.seconds} />
            <Clips clips={found.clips} nameOf={(id) => clips.find((clip) => clip.id === id)?.name ?? ''} kept={kept} onToggle={toggle} />
            <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
              {others(found)}
            </Typography>
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button color="inherit" onClick={onClose}>
          {found ? 'Leave all as it is' : 'Close'}
        </Button>
        {found && (
          <Button
            variant={accepted.length > 0 || clips.length === 0 ? 'contained' : 'outlined'}
            color={accepted.length > 0 || clips.length === 0 ? 'primary' : 'inherit'}
            onClick={() => void accept()}
          >
            {clips.length === 0 ? 'Accept' : `Accept, with ${accepted.length} of ${clips.length} ${clips.length === 1 ? 'clip' : 'clips'}`}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function saidOf({ offsetSeconds, covered, medianCm }: Found, old: TakeInfo, fresh: TakeInfo): string {
  const by = Math.abs(offsetSeconds);
  const shift = by < 0.0005 ? 'begins with it' : `begins ${by.toFixed(2)} s ${offsetSeconds > 0 ? 'before it' : 'into it'}`;
  const rates =
    old.passport.fps === fresh.passport.fps ? '' : `, has ${rate(fresh.passport.fps)} frames a second instead of ${rate(old.passport.fps)}`;
  const doubt = medianCm > 2.5 ? 'This may be another performance. ' : '';
  return `${doubt}The new one ${shift}${rates}, holds ${Math.round(covered * 100)} % of it, and its poses differ by ${medianCm.toFixed(1)} cm as a rule.`;
}

/** What of the new take was probably read wrongly, each with its repair. */
function Doubts({ found, fresh }: { found: Found; fresh: TakeInfo }) {
  const { edit } = useTakeEdits();
  const repair = (label: string, overrides: TakeInfo['overrides']) =>
    void edit(
      label,
      changesOf([fresh], (take) => ({ overrides: { ...take.overrides, ...overrides } })),
    );
  const fps = Math.round(fresh.passport.fps * found.pace * 1000) / 1000;
  const metresPerUnit = fresh.passport.units.metresPerUnit / found.scale;
  const doubts = [
    ...(Math.abs(found.pace - 1) > 0.01
      ? [
          {
            says: `It takes ${found.pace.toFixed(2)} times as long: it was probably read at a wrong rate.`,
            mend: `read it at ${rate(fps)}`,
            run: () => repair('rate', { fps }),
          },
        ]
      : []),
    ...(Math.abs(found.scale - 1) > 0.015
      ? [
          {
            says: `Its body is ${found.scale.toFixed(2)} times as tall: speeds change with it.`,
            mend: 'make it the same size',
            run: () => repair('scale', { metresPerUnit }),
          },
        ]
      : []),
  ];
  return doubts.map(({ says, mend, run }) => (
    <Typography key={mend} variant="body2" sx={{ my: 0.5 }}>
      <span aria-hidden>▲ </span>
      {says}{' '}
      <Button variant="outlined" color="inherit" sx={{ py: 0 }} onClick={run}>
        {mend}
      </Button>
    </Typography>
  ));
}

const OUTCOMES: Record<ClipMoved['outcome'], string> = {
  same: 'found',
  changed: 'found, solved anew',
  moved: 'found elsewhere',
  lost: 'not in it',
};

function Clips({
  clips,
  nameOf,
  kept,
  onToggle,
}: {
  clips: readonly ClipMoved[];
  nameOf: (id: string) => string;
  kept: ReadonlySet<string>;
  onToggle: (id: string) => void;
}) {
  if (clips.length === 0) return <Typography sx={{ mt: 1 }}>No clip is cut from the old take.</Typography>;
  const figure = (clip: ClipMoved, key: 'speedMps' | 'slideCm' | 'tick', digits: number) => {
    const [before, after] = [clip.before?.[key], clip.after?.[key]].map((value) => (value === undefined ? '–' : numeral(value, digits)));
    return before === after || !clip.after ? before : `${before} → ${after}`;
  };
  return (
    <Table size="small" aria-label="Clips of the old take" sx={{ mt: 1 }}>
      <TableHead>
        <TableRow>
          {['', 'Clip', 'In the new take', 'Frames', 'Poses, cm', 'Speed, m/s', 'Slide, cm', 'Tick'].map((label, i) => (
            <TableCell key={label} align={i > 2 ? 'right' : 'left'} sx={{ px: 0.8 }}>
              {label}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {clips.map((clip) => (
          <TableRow key={clip.id} aria-label={nameOf(clip.id)}>
            <TableCell padding="checkbox">
              <Checkbox
                size="small"
                disabled={clip.outcome === 'lost'}
                checked={clip.outcome !== 'lost' && !kept.has(clip.id)}
                onChange={() => onToggle(clip.id)}
                slotProps={{ input: { 'aria-label': `Cut ${nameOf(clip.id)} from the new take` } }}
              />
            </TableCell>
            <TableCell sx={{ px: 0.8, fontWeight: 700 }}>{nameOf(clip.id)}</TableCell>
            <TableCell sx={{ px: 0.8 }}>
              {clip.outcome === 'lost' && <span aria-hidden>▲ </span>}
              {OUTCOMES[clip.outcome]}
            </TableCell>
            <TableCell align="right" sx={{ px: 0.8 }}>
              {clip.outcome === 'lost' ? '–' : `${clip.from}–${clip.to}`}
            </TableCell>
            <TableCell align="right" sx={{ px: 0.8 }}>
              {clip.outcome === 'lost' ? '–' : clip.differenceCm.toFixed(1)}
            </TableCell>
            <TableCell align="right" sx={{ px: 0.8 }}>
              {figure(clip, 'speedMps', 2)}
            </TableCell>
            <TableCell align="right" sx={{ px: 0.8 }}>
              {figure(clip, 'slideCm', 2)}
            </TableCell>
            <TableCell align="right" sx={{ px: 0.8 }}>
              {figure(clip, 'tick', 2)}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

function others({ markers, lostMarkers, props, clips }: Found): string {
  const many = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`;
  const parts = [
    ...(markers.length > 0 ? [many(markers.length, 'marker')] : []),
    ...(props.length > 0 ? [many(props.length, 'prop')] : []),
    'its name, tags and notes',
  ];
  const lost = clips.filter(({ outcome }) => outcome === 'lost').length;
  return [
    `With it go ${parts.join(', ')}.`,
    ...(lostMarkers.length > 0
      ? [`Not in the new take: the ${lostMarkers.length === 1 ? 'marker' : 'markers'} ${lostMarkers.join(', ')}.`]
      : []),
    ...(lost > 0 ? [`${many(lost, 'clip')} not found ${lost === 1 ? 'stays' : 'stay'} with the old take.`] : []),
    'Clips that are not ticked stay with the old take. Undo takes all of it back.',
  ].join(' ');
}
