import { KNEE } from './knee';
import type { Memory } from './memory';
import type { PlayLeg, SolePoint } from './play-set';
import { wrapAngle } from './quat';

/** How long a foot takes back to where the pose has it after it was held, seconds. */
export const RELEASE = 0.25;

/** A foot leaves no steeper than so many times the mean of its way back. */
const STEEPEST = 12;

/** Numbers of a foot's offset: of the ankle x, y, z in metres, and of its heading in radians. */
export const OFFSET = 4;

/** A foot, and what is known of it from one step to the next. */
export interface Foot {
  readonly leg: PlayLeg;
  readonly sole: readonly SolePoint[];
  /** Where the pose wants the ankle, how it wants the foot turned in the world, and what turns that of the joints so. */
  readonly ankle: Float64Array;
  readonly turned: Float64Array;
  readonly by: Float64Array;
  /** Where the points of the sole are, as posed, three numbers each. */
  readonly points: Float64Array;
  readonly offset: Float64Array;
  /** The offset a step ago, and how long that step was. */
  readonly before: Float64Array;
  /** Where the point that bears stays: x, z. */
  readonly anchor: Float64Array;
  /** How the foot was turned in the world a step ago, as posed. */
  readonly last: Float64Array;
  /** The offset at the release, and its slope, a second. */
  readonly left: Float64Array;
  readonly slope: Float64Array;
  /** What the offset was when the foot came down, and what it goes to until it comes down again; in the root's axes. */
  readonly landed: Float64Array;
  readonly goal: Float64Array;
  /** How far the hips ought to have come down for it in this stance, and in the last one, metres, and more: see `NEED`. */
  readonly now: Float64Array;
  /** How the knee has been bent beyond the pose: see `KNEE`. */
  readonly knee: Float64Array;
}

/**
 * Numbers of `now`: need and need in the last stance; whether it is held (1), the point of the sole that bears, seconds since it was let go, how high the
 * step of its own that it takes is (0 when it takes none), how high it is over the floor of its clips, and the ground that it stands on or goes to.
 */
export const [NEED, NEEDED, HOLDS, BEARS, SINCE, STEPS, LEVEL, UNDER, FAR] = [0, 1, 2, 3, 4, 5, 6, 7, 8];

/** A foot that was not held yet. */
export const footOf = (leg: PlayLeg, sole: readonly SolePoint[], memory: Memory): Foot => {
  const now = memory.take(9);
  now[SINCE] = RELEASE;
  return {
    leg,
    sole,
    ankle: new Float64Array(3),
    turned: new Float64Array(4),
    by: new Float64Array(4),
    points: new Float64Array(sole.length * 3),
    offset: memory.take(OFFSET),
    before: new Float64Array(OFFSET),
    anchor: memory.take(2),
    last: memory.take(4),
    left: memory.take(OFFSET),
    slope: memory.take(OFFSET),
    landed: memory.take(OFFSET),
    goal: memory.take(OFFSET),
    now,
    knee: memory.take(KNEE),
  };
};

/** How far a foot, as posed, has turned about the vertical since the last step; it may be pitched however steeply. */
export function turnedSince({ turned, last }: Foot): number {
  const [x, y, z, w] = [last[0], last[1], last[2], last[3]];
  // The y and w of now · last⁻¹.
  const dw = turned[3] * w + turned[0] * x + turned[1] * y + turned[2] * z;
  const dy = -turned[3] * y + turned[1] * w - turned[2] * x + turned[0] * z;
  return wrapAngle(2 * Math.atan2(dy, dw));
}

/** In place: an offset, a quintic from its value and slope at the release to where the foot shall land. */
export function decay(own: Foot, facing: number, seconds: number): void {
  const { goal, offset, left, slope } = own;
  own.now[SINCE] = Math.min(RELEASE, own.now[SINCE] + seconds);
  const t = own.now[SINCE] / RELEASE;
  const come = t * t * t * (10 - 15 * t + 6 * t * t);
  const along = RELEASE * (t - 6 * t ** 3 + 8 * t ** 4 - 3 * t ** 5);
  const c = Math.cos(facing),
    s = Math.sin(facing);
  for (let k = 0; k < OFFSET; k++) {
    const there = k === 0 ? c * goal[0] + s * goal[2] : k === 2 ? c * goal[2] - s * goal[0] : goal[k];
    const away = left[k] - there;
    // A slope that would carry it far out is not followed.
    const most = (STEEPEST * Math.abs(away)) / RELEASE + 1e-3;
    offset[k] = there + away * (1 - come) + Math.max(-most, Math.min(most, slope[k])) * along;
  }
}

/** An offset in the axes of a root that faces some way. */
export function toRoot(out: Float64Array, offset: Float64Array, facing: number): void {
  const c = Math.cos(facing),
    s = Math.sin(facing);
  out[0] = c * offset[0] - s * offset[2];
  out[1] = 0;
  out[2] = s * offset[0] + c * offset[2];
  out[3] = offset[3];
}
