import { quantile } from '../math/statistics';
import { lowPassedPoint } from './low-passed';

/** How smoothly a point goes, and where it jerks most. */
export interface Smoothness {
  /** Root mean square jerk over that of the way as it was captured, low-passed at 12 Hz: about 1 for a body that nothing shakes. */
  readonly ratio: number;
  /** The places furthest from where the frames beside them lead, the worst first. */
  readonly kinks: readonly ArcKink[];
}

/** A frame that stands off from where the cubic through the two frames on either side leads. */
export interface ArcKink {
  readonly frame: number;
  readonly mm: number;
  /** Over the 95th percentile of the same along the way. */
  readonly times: number;
}

/** Kinks that are nearer to one another are one, seconds. */
const APART = 0.1;
/** Less than this is rounding of numbers, metres. */
const ROUNDING = 2e-5;

/**
 * @param points three numbers a frame, metres
 * @param captured the same point as it was captured, if that is another way: so that what was done to it can be held beside what it was
 * @param most kinks that are told
 *
 * @example
 * const wrist = Float32Array.from({ length: 180 }, (_, i) => Math.sin(i / 30));
 * smoothness(wrist, 60).ratio < 1.1; // true
 */
export function smoothness(points: Float32Array, fps: number, captured: Float32Array = points, most = 3): Smoothness {
  const n = points.length / 3;
  if (n < 8) return { ratio: 1, kinks: [] };
  const { x, y, z } = lowPassedPoint(captured, fps);
  const raw = meanJerk(n, (f, k) => points[f * 3 + k]);
  const smooth = meanJerk(x.length, (f, k) => [x, y, z][k][f]);
  const off = new Float64Array(n);
  for (let f = 2; f < n - 2; f++) {
    let sum = 0;
    for (let k = 0; k < 3; k++) {
      const at = (d: number) => points[(f + d) * 3 + k];
      sum += (at(0) - (4 * (at(-1) + at(1)) - at(-2) - at(2)) / 6) ** 2;
    }
    off[f] = Math.sqrt(sum);
  }
  const usual = Math.max(ROUNDING, quantile(off.subarray(2, n - 2), 0.95));
  const apart = Math.round(APART * fps);
  const kinks: ArcKink[] = [];
  for (const frame of Array.from(off.keys()).sort((a, b) => off[b] - off[a])) {
    if (kinks.length === most || off[frame] < ROUNDING) break;
    if (kinks.every((kink) => Math.abs(kink.frame - frame) > apart))
      kinks.push({ frame, mm: off[frame] * 1000, times: off[frame] / usual });
  }
  return { ratio: smooth > ROUNDING ? raw / smooth : 1, kinks };
}

/** Root mean square of the third difference, a frame. */
function meanJerk(n: number, at: (f: number, k: number) => number): number {
  let sum = 0;
  for (let f = 0; f + 3 < n; f++) for (let k = 0; k < 3; k++) sum += (at(f + 3, k) - 3 * at(f + 2, k) + 3 * at(f + 1, k) - at(f, k)) ** 2;
  return Math.sqrt(sum / Math.max(1, n - 3));
}
