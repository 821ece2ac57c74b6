import { overlapWeights, type JoinInto } from '@lantern/motion';
import type { Placed } from './layout';

/** Points of an edge along an overlap. */
const STEPS = 24;

/** The overlap into a piece, frames of the join. */
export interface Overlap {
  readonly from: number;
  readonly to: number;
  readonly into: JoinInto;
}

/** The overlap between two pieces that follow each other; a cut, and what is carried over, begins with the frame that both share. */
export function overlapOf(before: Placed, piece: Placed, into: JoinInto): Overlap {
  const isBlended = into.how === 'fade' && into.frames > 0;
  return isBlended ? { from: piece.from, to: before.to, into } : { from: before.to, to: before.to, into };
}

/** A piece's weight along the join as an outline: rising over the overlap into it, full, falling over the one out of it. */
export function silhouette(
  placed: Placed,
  rising: Overlap | null,
  falling: Overlap | null,
  x: (frame: number) => number,
  y: (weight: number) => number,
): string {
  const points: (readonly [number, number])[] = [];
  const edge = (overlap: Overlap, isRising: boolean) => {
    const { from, to, into } = overlap;
    if (to <= from) return points.push(...(isRising ? [[from, 0] as const, [from, 1] as const] : [[to, 1] as const, [to, 0] as const]));
    const weights = overlapWeights(STEPS, into.curve, into.leaving);
    return weights.forEach((w, i) => points.push([from + ((to - from) * i) / STEPS, isRising ? w : 1 - w]));
  };
  if (rising) edge(rising, true);
  else points.push([placed.from, 0], [placed.from, 1]);
  if (falling) edge(falling, false);
  else points.push([placed.to, 1], [placed.to, 0]);
  return `M${points.map(([f, w]) => `${x(f).toFixed(1)} ${y(w).toFixed(1)}`).join('L')}Z`;
}
