'use client';
import type { Skeleton } from '@lantern/motion';
import { Box, CircularProgress, Typography } from '@mui/material';
import { useMemo, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useCorrecting } from '@/data/correcting';
import { useCharacter } from '@/data/fits';
import { usePlayer } from '@/data/player';
import type { Pen } from '@/stage/PathPen';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import type { StageProps } from '@/stage/stage-props';
import type { ClipResult, Judged, OpenTake } from '@/worker/core.worker';
import type { Markers } from '@/worker/markers';
import type { WireMotion } from '@/worker/wire';
import type { Corrections } from './layers/use-corrections';

/** The Bench's window: the clip as it plays, or the take as it was captured. */
export function BenchStage({
  take,
  error,
  shown,
  markers,
  speedMps,
  isBusy,
  pair,
  pen,
  character,
  corrections,
  ghost,
  judged,
  children,
}: {
  take: OpenTake | null;
  error: Error | null;
  /** The clip; null while the take itself is looked at. */
  shown: ClipResult | null;
  /** Of the clip, once it is measured. */
  markers: Markers | null;
  speedMps: number | null;
  isBusy: boolean;
  pair: WireMotion | null;
  pen: Pen | null;
  /** Whom the clip is fitted to. */
  character: string | null;
  corrections: Corrections;
  /** Another state of the clip, seen through it. */
  ghost: ClipResult | null;
  /** Its arcs and its balance, as far as they are asked for. */
  judged: Judged | null;
  children: ReactNode;
}) {
  const { data: skin } = useCharacter(character);
  const trails = useMemo(() => judged?.arcs.map(({ joint, now, before }) => ({ joint, points: now, before })), [judged]);
  const hold = useHold(corrections, shown?.motion.skeleton ?? null);
  if (!take) {
    const notice = error ? <Typography role="alert">{error.message}</Typography> : <CircularProgress aria-label="Loading the take" />;
    return <StageFrame stage={null} notice={notice} />;
  }
  const { frames } = take.motion;
  const motion = shown?.motion ?? take.motion;
  // What is fitted is seen in the character's own skin.
  const mesh = [skin, { skeleton: take.motion.skeleton, mesh: take.mesh }].find(
    (own) => own && sameJoints(own.skeleton, motion.skeleton),
  )?.mesh;
  if (!mesh) return <StageFrame stage={null} notice={<CircularProgress aria-label="Loading the character" />} />;
  return (
    <StageFrame
      stage={{
        motion,
        mesh,
        markers: shown ? (markers ?? shown.markers) : take.markers,
        floor: shown ? shown.floor : take.floor,
        heading: shown ? (shown.heading ?? undefined) : take.heading,
        pair,
        way: shown?.way,
        trails: shown ? trails : undefined,
        balance: shown ? judged?.balance : null,
        pen,
        other: ghost && shown ? { motion: ghost.motion, mesh, floor: ghost.floor, shift: NOWHERE } : null,
        ...hold,
      }}
      footer={
        <>
          <AtFrame>
            {(frame) => (shown ? `frame ${frame % Math.max(1, shown.cycle)} of ${shown.cycle}` : `frame ${frame} of ${frames}`)}
          </AtFrame>
          {shown && speedMps !== null && (
            <Typography variant="body2" component="span" noWrap>
              {speedMps.toFixed(2)} m/s
            </Typography>
          )}
          {shown && judged?.balance && (
            // In a narrow window it gives way to what is pressed.
            <Box
              sx={{ minWidth: 0, flexShrink: 99, overflow: 'hidden' }}
              title="How far the body’s centre is inside of its soles, or outside"
            >
              <Margin marginCm={judged.balance.marginCm} />
            </Box>
          )}
          <Box sx={{ flex: 1 }} />
          {isBusy && <CircularProgress size={14} color="inherit" aria-label="Working the recipe" />}
          {children}
        </>
      }
    />
  );
}

/** How far inside or outside of its soles the body's centre is. */
const Margin = ({ marginCm }: { marginCm: Float32Array }) => (
  <AtFrame>
    {(frame) => {
      const cm = marginCm[Math.min(marginCm.length - 1, frame)];
      return Number.isNaN(cm) ? 'in the air' : `balance ${Math.abs(cm).toFixed(1)} cm ${cm < 0 ? 'outside' : 'inside'}`;
    }}
  </AtFrame>
);

const NOWHERE = [0, 0] as const;
const NONE: ReadonlySet<number> = new Set();

/** What can be taken hold of on the stage while the clip is corrected. */
function useHold(
  { isOn, joint, turn, draw, pinned, frameNow }: Corrections,
  skeleton: Skeleton | null,
): Pick<StageProps, 'picking' | 'turning' | 'drawing'> {
  const mode = useCorrecting((state) => state.mode);
  const picking = useMemo(
    () =>
      isOn && skeleton
        ? {
            chosen: [joint < 0 ? NONE : new Set([joint])],
            onPick: (_: number, picked: number) => useCorrecting.setState({ joint: skeleton.joints[picked].name }),
          }
        : null,
    [isOn, joint, skeleton],
  );
  // Follows the playhead as far as a touch holds the limb or does not.
  const limb = usePlayer(useShallow(() => (isOn ? pinned(frameNow()) : null)));
  if (!isOn || joint < 0) return { picking };
  if (mode !== 'turn') return { picking, drawing: { joint, onDraw: draw } };
  return { picking, turning: { figure: 0, joint, about: limb ?? 'viewer', onTurn: turn } };
}

const sameJoints = (a: Skeleton, b: Skeleton): boolean =>
  a.joints.length === b.joints.length && a.joints.every(({ name }, j) => name === b.joints[j].name);
