import type { JoinCurve } from './schema';
import { series } from '../math/series';

/**
 * The weight of a piece that comes in, at a share of the overlap: 0 at its beginning, 1 at its end.
 *
 * @example
 * curveAt('smooth', 0.5); // 0.5
 */
export function curveAt(curve: JoinCurve, t: number): number {
  const x = Math.min(1, Math.max(0, t));
  if (curve === 'straight') return x;
  if (curve === 'smooth') return x * x * x * (10 - 15 * x + 6 * x * x);
  if (curve === 'sudden') return x < 0.5 ? 0 : 1;
  return bezierAt(curve, x);
}

/** A cubic Bézier from (0, 0) to (1, 1) through two handles, at a share along x, found by halving. */
function bezierAt([ax, ay, bx, by]: readonly [number, number, number, number], x: number): number {
  const at = (p: number, q: number, u: number) => 3 * (1 - u) * (1 - u) * u * p + 3 * (1 - u) * u * u * q + u * u * u;
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (at(ax, bx, middle) < x) low = middle;
    else high = middle;
  }
  return at(ay, by, (low + high) / 2);
}

/**
 * Shares of the coming piece in every frame of an overlap.
 *
 * @param leaving of the piece that goes: how much of it has gone; left out, the counterpart of the other
 *
 * @example
 * [...overlapWeights(4, 'straight')]; // [0, 0.25, 0.5, 0.75, 1]
 */
export function overlapWeights(frames: number, coming: JoinCurve, leaving: JoinCurve = coming): Float64Array {
  return series(frames + 1, (f) => {
    if (f === 0) return 0;
    if (f === frames) return 1;
    const come = curveAt(coming, f / frames);
    const stay = 1 - curveAt(leaving, f / frames);
    return come + stay > 0 ? come / (come + stay) : 0.5;
  });
}
