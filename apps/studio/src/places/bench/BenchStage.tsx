'use client';
import { Box, CircularProgress, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import type { Pen } from '@/stage/PathPen';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import type { ClipResult, OpenTake } from '@/worker/core.worker';
import type { Markers } from '@/worker/markers';
import type { WireMotion } from '@/worker/wire';

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
  children: ReactNode;
}) {
  if (!take) {
    const notice = error ? <Typography role="alert">{error.message}</Typography> : <CircularProgress aria-label="Loading the take" />;
    return <StageFrame stage={null} notice={notice} />;
  }
  const { frames } = take.motion;
  return (
    <StageFrame
      stage={{
        motion: shown?.motion ?? take.motion,
        mesh: take.mesh,
        markers: shown ? (markers ?? shown.markers) : take.markers,
        floor: shown ? shown.floor : take.floor,
        heading: shown ? (shown.heading ?? undefined) : take.heading,
        pair,
        way: shown?.way,
        pen,
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
          <Box sx={{ flex: 1 }} />
          {isBusy && <CircularProgress size={14} color="inherit" aria-label="Working the recipe" />}
          {children}
        </>
      }
    />
  );
}
