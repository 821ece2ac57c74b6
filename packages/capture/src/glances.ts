import { RADIANS, type Random } from '@lantern/motion';
import { smooth } from './gait-table';
import { FINE } from './plan-data';

/** Where the head is turned to, against where he goes. Radians, one entry per fine sample; pitch is positive looking down. */
export interface Glances {
  readonly yaw: Float64Array;
  readonly pitch: Float64Array;
}

/**
 * The head looks somewhere for a while and goes on to something else, quickly and without overshoot: far and often of one who waits,
 * a little and seldom of one who goes.
 *
 * @param still 1 of one who stands, 0 of one who goes, by fine sample
 * @param restless how much more he looks about than usual: 0 as usual
 */
export function glances(still: Float64Array, random: Random, restless: number): Glances {
  const n = still.length;
  const out = { yaw: new Float64Array(n), pitch: new Float64Array(n) };
  let at = 0;
  let [yaw, pitch] = [0, 0];
  while (at < n) {
    const calm = 1 - still[at];
    const holds = (1.4 + 2.6 * random.next() + 2.5 * calm) / (1 + restless);
    const end = Math.min(n, at + Math.round(holds * FINE));
    out.yaw.fill(yaw, at, end);
    out.pitch.fill(pitch, at, end);
    if (end >= n) break;
    const wide = 1 - 0.9 * (1 - still[end]);
    // Every other time he looks ahead again.
    const home = yaw !== 0 && random.next() < 0.5;
    const [toYaw, toPitch] = [19 * (1 + 0.5 * restless) * random.normal(), 5 * random.normal() + 1.5].map((v) =>
      home ? 0 : Math.max(-42, Math.min(42, v)) * wide * RADIANS,
    );
    const takes = Math.round((0.42 + 0.5 * Math.abs(toYaw - yaw)) * FINE);
    const turns = Math.min(n, end + takes);
    for (let i = end; i < turns; i++) {
      const u = smooth((i - end) / takes);
      out.yaw[i] = yaw + (toYaw - yaw) * u;
      out.pitch[i] = pitch + (toPitch - pitch) * u;
    }
    [yaw, pitch] = [toYaw, toPitch];
    at = turns;
  }
  return out;
}
