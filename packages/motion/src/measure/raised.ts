import { lowPass } from '../math/filter';
import { median } from '../math/statistics';

/** A stretch in which a foot rests on ground above the floor: a kerb, a stair, a box. Frames; metres. */
export interface Raised {
  readonly from: number;
  readonly to: number;
  readonly level: number;
}

/** Lower than this above the floor is the floor, metres. */
const LEAST_RISE = 0.05;
/** A resting foot keeps its height within this, metres, for this long, seconds, and moves less than this, metres a second. */
const STEADY = 0.015;
const LEAST_SECONDS = 0.1;
const STILL = 0.25;
/** Hips over a foot that bears, as a share of their height over the floor when standing. */
const LEAST_LEG = 0.72;
/** The other foot is off the floor for this long meanwhile, seconds: else the foot is merely held up. */
const ALONE_SECONDS = 0.05;

/**
 * Where a foot stands above the floor. A foot that is held in the air can be still too: it bears only if the leg under the hips is about
 * as long as in standing, and the other foot leaves the floor while it is there.
 *
 * @param lowest height of the foot's lowest sole point per frame, metres
 * @param speed of its slowest sole point, metres a second
 * @param otherBears whether the other foot is in contact with the floor
 * @param hips height of the hips, metres
 */
export function raised(
  lowest: Float64Array,
  speed: Float64Array,
  otherBears: Uint8Array,
  hips: ArrayLike<number>,
  floor: number,
  fps: number,
): Raised[] {
  const n = lowest.length;
  const height = lowPass(lowest, 12, fps);
  const standing = median(Float64Array.from(hips)) - floor;
  const rests = (f: number) => height[f] > floor + LEAST_RISE && speed[f] < STILL && hips[f] - height[f] > LEAST_LEG * standing;
  const out: Raised[] = [];
  for (let f = 0; f < n; f++) {
    if (!rests(f)) continue;
    const from = f;
    let low = height[f];
    let high = height[f];
    let alone = 0;
    while (f < n && rests(f) && Math.max(high, height[f]) - Math.min(low, height[f]) <= STEADY) {
      low = Math.min(low, height[f]);
      high = Math.max(high, height[f]);
      if (!otherBears[f]) alone++;
      f++;
    }
    if (f - from >= LEAST_SECONDS * fps && alone >= ALONE_SECONDS * fps) {
      out.push({ from, to: f, level: median(height.subarray(from, f)) });
    }
  }
  return out;
}
