import { useMemo } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import type { Pen } from '@/stage/PathPen';
import type { ClipResult } from '@/worker/core.worker';

/** The pen that draws a clip's path on the floor, when its path is drawn. */
export function usePen(
  doc: ClipDoc | null,
  shown: ClipResult | null,
  isDrawing: boolean,
  /** Facing of the take, per frame. */
  heading: Float32Array | undefined,
  put: (doc: ClipDoc) => void,
): Pen | null {
  const step = doc?.steps.find((s) => s.kind === 'path' && !s.off);
  const isAtOrigin = doc?.steps.some((s) => s.kind === 'travel' && !s.off && s.start === 'origin') ?? false;
  const first = shown?.motion.rootPositions;
  const facing = doc ? heading?.[doc.from] : 0;
  const [x, z, turn] = isAtOrigin ? [0, 0, 0] : [first?.[0] ?? 0, first?.[2] ?? 0, facing ?? 0];
  return useMemo(() => {
    if (!doc || step?.kind !== 'path' || step.shape !== 'points') return null;
    return {
      points: step.points,
      origin: { x, z, heading: turn },
      isDrawing,
      onChange: (points) =>
        put({
          ...doc,
          steps: doc.steps.map((s) => (s === step ? { ...step, points: points.map(([a, b]): [number, number] => [a, b]) } : s)),
        }),
    };
  }, [doc, step, x, z, turn, isDrawing, put]);
}

/** The frame of a clip that shows a frame of its cut, or the nearest to it. */
export function clipFrameAt(source: ArrayLike<number> | null, frame: number, cycle: number): number {
  if (!source) return Math.min(cycle, frame);
  let best = 0;
  for (let f = 1; f < source.length; f++) if (Math.abs(source[f] - frame) < Math.abs(source[best] - frame)) best = f;
  return best;
}
