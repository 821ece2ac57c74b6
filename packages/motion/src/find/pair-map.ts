import type { Groundwork } from '../measure/groundwork';
import { commonParts, pairDistance, pairSide, windowOf, type PairSide } from './pair-distances';

/** Two motions of which instants are held against each other, again and again. */
export interface MotionPair {
  readonly a: PairSide;
  readonly b: PairSide;
  readonly window: Int32Array;
}

export function motionPair(a: Groundwork, b: Groundwork): MotionPair {
  const parts = commonParts(a, b);
  return { a: pairSide(a, parts), b: pairSide(b, parts), window: windowOf(a.motion.fps) };
}

/**
 * How far apart instants of two motions are after the best alignment on the floor, metres, `row · size + column`: `size` instants of the one spread evenly
 * over some frames (rows), and of the other (columns).
 *
 * @example
 * pairMap(motionPair(ground, ground), [0, 60], [0, 60], 8)[9]; // 0
 */
export function pairMap(
  { a, b, window }: MotionPair,
  [rowFrom, rowTo]: readonly [number, number],
  [from, to]: readonly [number, number],
  size: number,
): Float32Array {
  const at = (start: number, end: number, i: number, frames: number) =>
    Math.min(frames - 1, Math.max(0, Math.round(start + ((end - start) * i) / Math.max(1, size - 1))));
  const out = new Float32Array(size * size);
  for (let r = 0; r < size; r++)
    for (let c = 0; c < size; c++) {
      out[r * size + c] = pairDistance(a, at(rowFrom, rowTo, r, a.frames), b, at(from, to, c, b.frames), window);
    }
  return out;
}
