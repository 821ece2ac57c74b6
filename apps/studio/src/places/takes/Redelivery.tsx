'use client';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, LinearProgress, Typography } from '@mui/material';
import { useState } from 'react';
import type { TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits } from '@/data/take-edits';
import type { Redelivery as Found } from '@/worker/redelivery';
import { lazily } from '@/controls/lazily';
import { MovedClips } from './MovedClips';
import { rate } from './rate';
import { useDelivery } from './use-delivery';

// Charts are read when they are shown.
const DifferenceProfile = lazily(async () => (await import('./DifferenceProfile')).DifferenceProfile, 'the profile', 120);

/** A better solve of a take in use: what was made from the old one and where it lies in the new, to accept clip by clip. */
export function Redelivery({ old, fresh, onClose }: { old: TakeInfo; fresh: TakeInfo; onClose: () => void }) {
  const { clips, found, problem, isPending, accept } = useDelivery(old, fresh, onClose);
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const accepted = found?.clips.filter(({ id, outcome }) => outcome !== 'lost' && !kept.has(id)) ?? [];
  const isWorthIt = accepted.length > 0 || clips.length === 0;
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
        {problem && (
          <Typography role="alert" sx={{ my: 1 }}>
            <span aria-hidden>▲ </span>
            <strong>{problem}</strong> “{fresh.name}” stays in the list as a take of its own; nothing made from “{old.name}” has changed.
          </Typography>
        )}
        {found && (
          <>
            <Typography sx={{ mb: 0.5 }}>{saidOf(found, old, fresh)}</Typography>
            <Doubts found={found} fresh={fresh} />
            <DifferenceProfile values={found.profile} seconds={old.passport.seconds} />
            <MovedClips
              clips={found.clips}
              nameOf={(id) => clips.find((clip) => clip.id === id)?.name ?? ''}
              kept={kept}
              onKeep={setKept}
            />
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
            variant={isWorthIt ? 'contained' : 'outlined'}
            color={isWorthIt ? 'primary' : 'inherit'}
            onClick={() => void accept(accepted)}
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
