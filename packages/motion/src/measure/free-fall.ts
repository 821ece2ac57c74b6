import { median } from '../math/statistics';
import type { Gait } from './gait';

export interface FreeFall {
  readonly flights: number;
  /** The median acceleration of the hips over the flights; null without flights. */
  readonly medianMps2: number | null;
  readonly verdict: 'consistent' | 'rate' | 'scale' | 'unclear' | 'no-flights';
  readonly suggestion: { readonly fps: number } | { readonly metresPerUnit: number } | null;
}

const GRAVITY = 9.81;
/** Flights of fewer frames than this say nothing. */
const LEAST_FRAMES = 5;

/**
 * The free-fall check, first version: fits a parabola to the hips' height over each flight between two contacts and compares the
 * median fall with 9.81 m/s². It says whether scale and rate agree with gravity, not yet what would mend them when they
 * do not: anything but agreement is "unclear".
 */
export function freeFall(gait: Gait | null): FreeFall {
  const falls = gait ? flights(gait).flatMap(([from, to]) => fallOf(gait, from, to)) : [];
  if (falls.length === 0) return { flights: 0, medianMps2: null, verdict: 'no-flights', suggestion: null };
  const middle = median(falls);
  return {
    flights: falls.length,
    medianMps2: middle,
    verdict: falls.length >= 3 && Math.abs(middle / GRAVITY - 1) < 0.12 ? 'consistent' : 'unclear',
    suggestion: null,
  };
}

/** Intervals with neither foot in contact, between two that have one: first frame in the air, first one after. */
function flights({ contacts, motion }: Gait): [number, number][] {
  const grounded = new Uint8Array(motion.frames);
  for (const side of ['left', 'right'] as const) for (const { from, to } of contacts[side]) grounded.fill(1, from, to);
  const out: [number, number][] = [];
  let start = -1;
  for (let f = 1; f < motion.frames; f++) {
    if (!grounded[f] && grounded[f - 1]) start = f;
    if (grounded[f] && start > 0) {
      if (f - start <= motion.fps) out.push([start, f]);
      start = -1;
    }
  }
  return out;
}

/** The acceleration of the parabola through the hips' heights when it fits within 4 mm. */
function fallOf({ globals, body, motion }: Gait, from: number, to: number): number[] {
  const n = to - from;
  if (n < LEAST_FRAMES) return [];
  const y = (i: number) => globals.positions[((from + i) * globals.joints + body.hips) * 3 + 1];
  // Least squares on t centred: y ≈ a + b·t + c·t².
  let s2 = 0,
    s4 = 0,
    sy = 0,
    sy2 = 0,
    sy1 = 0;
  for (let i = 0; i < n; i++) {
    const t = i - (n - 1) / 2;
    s2 += t * t;
    s4 += t ** 4;
    sy += y(i);
    sy1 += y(i) * t;
    sy2 += y(i) * t * t;
  }
  const c = (n * sy2 - s2 * sy) / (n * s4 - s2 * s2);
  const a = (sy - c * s2) / n;
  const b = sy1 / s2;
  let square = 0;
  for (let i = 0; i < n; i++) {
    const t = i - (n - 1) / 2;
    square += (y(i) - a - b * t - c * t * t) ** 2;
  }
  return Math.sqrt(square / n) < 0.004 && c < 0 ? [-2 * c * motion.fps ** 2] : [];
}
