import type { Groundwork } from '../measure/groundwork';
import { commonParts, pairDistance, pairSide, windowOf, type PairSide } from './pair-distances';

/** Pose distance, metres, at which likeness has fallen to a third. */
const FADE = 0.12;

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
 * How alike instants of two motions are after the best alignment on the floor, 255 the same and 0 nothing alike, `row · size + column`: `size` instants of the
 * one spread evenly over some frames (rows), and of the other (columns).
 *
 * @example
 * pairMap(motionPair(ground, ground), [0, 60], [0, 60], 8)[9]; // 255
 */
export function pairMap(
  { a, b, window }: MotionPair,
  [rowFrom, rowTo]: readonly [number, number],
  [from, to]: readonly [number, number],
  size: number,
): Uint8ClampedArray {
  const at = (start: number, end: number, i: number, frames: number) =>
    Math.min(frames - 1, Math.max(0, Math.round(start + ((end - start) * i) / Math.max(1, size - 1))));
  const out = new Uint8ClampedArray(size * size);
  for (let r = 0; r < size; r++)
    for (let c = 0; c < size; c++) {
      const distance = pairDistance(a, at(rowFrom, rowTo, r, a.frames), b, at(from, to, c, b.frames), window);
      out[r * size + c] = 255 * Math.exp(-distance / FADE);
    }
  return out;
}
