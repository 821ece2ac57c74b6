import type { Groundwork } from '../measure/groundwork';
import { trackOf } from '../model/track';

/** He crouches, or has straightened up, within this of leaving the ground or landing, seconds. */
const WITHIN_SECONDS = 1.2;
/** He sinks or rises while his hips will be lower or higher than now by this within so long: metres, seconds. */
const BY = 0.004;
const SOON_SECONDS = 0.1;
/** His hips are still when they go no quicker, metres a second. */
const STILL = 0.3;

/**
 * Looks from the instant at which a hop leaves the ground backwards, or from that at which it lands forwards, for the one at which its performer
 * stands upright: past the crouch, which is where hips sink and then rise. Of the stillness there a little is kept, if he is still.
 *
 * @param at frame on which a foot leaves the ground or both are down
 * @param way −1 back to before the crouch, 1 on to after the landing
 * @param stillSeconds of stillness at most kept
 * @returns a frame of the take
 */
export function uprightFrom({ globals, body, motion: { fps } }: Groundwork, at: number, way: -1 | 1, stillSeconds: number): number {
  const [x, y, z] = [0, 1, 2].map((axis) => trackOf(globals, body.hips, axis));
  const end = way < 0 ? 0 : y.length - 1;
  const reach = (f: number, seconds: number) =>
    way < 0 ? Math.max(end, f - Math.round(seconds * fps)) : Math.min(end, f + Math.round(seconds * fps));
  const most = reach(at, WITHIN_SECONDS);
  const goesOn = (f: number, sign: -1 | 1) => {
    const soon = reach(f, SOON_SECONDS);
    for (let g = f; g !== soon;) if (sign * (y[(g += way)] - y[f]) > BY) return true;
    return false;
  };
  let f = Math.min(Math.max(at, 0), y.length - 1);
  while (f !== most && goesOn(f, -1)) f += way;
  while (f !== most && goesOn(f, 1)) f += way;
  const kept = reach(f, stillSeconds);
  while (f !== kept && Math.hypot(x[f + way] - x[f], y[f + way] - y[f], z[f + way] - z[f]) * fps < STILL) f += way;
  return f;
}
