import { stepOf } from '@lantern/motion';
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
  const step = doc && stepOf(doc.steps, 'path');
  const isAtOrigin = doc !== null && stepOf(doc.steps, 'travel')?.start === 'origin';
  const first = shown?.motion.rootPositions;
  const facing = doc ? heading?.[doc.source.from] : 0;
  const [x, z, turn] = isAtOrigin ? [0, 0, 0] : [first?.[0] ?? 0, first?.[2] ?? 0, facing ?? 0];
  return useMemo(() => {
    if (!doc || step?.shape !== 'points') return null;
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
