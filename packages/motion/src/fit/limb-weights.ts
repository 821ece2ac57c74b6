import { smoothStep5 } from '../math/smooth';
import type { Placement } from './settings';

/**
 * How much of a limb's place is kept in every frame, 0 to 1: the weight, and in each hold the hold's own, led in and out around it.
 *
 * @param start the frame of the clip at which the frames begin (negative: before the clip)
 *
 * @example
 * [...limbWeights({ weight: 0.5, holds: [] }, 3, 60, 0)]; // [0.5, 0.5, 0.5]
 */
export function limbWeights(placement: Pick<Placement, 'weight' | 'holds'>, frames: number, fps: number, start: number): Float64Array {
  const out = new Float64Array(frames).fill(placement.weight);
  for (const { from, to, weight, fade } of placement.holds) {
    const span = Math.max(1, Math.round(fade * fps));
    for (let f = Math.max(0, from - span - start); f <= Math.min(frames - 1, to + span - start); f++) {
      const outside = Math.max(from - (f + start), f + start - to, 0);
      const share = 1 - smoothStep5(outside / span);
      out[f] += (weight - out[f]) * share;
    }
  }
  return out;
}
