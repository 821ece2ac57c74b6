import { fromAxisAngle, multiply, multiplyInverse, type Vec3 } from '../math/quat';
import { cross, minus, norm, unit, vecAt } from '../math/vec';
import { followPoint, type FixedPoint } from '../model/fixed-point';
import type { Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';

/** No toe bends further up, radians. */
const MOST_BEND = 1.2;

/** The toes of a foot: their joint, and the points under the ball and the tip. */
export interface ToePoints {
  readonly toe: number;
  readonly ball: FixedPoint;
  readonly tip: FixedPoint;
}

/**
 * In place: toes that would go through the floor are bent up at the ball, as toes are.
 *
 * @param globals of the motion before
 * @param ground level of the floor, metres
 * @param slack how deep a tip may be before it is lifted, metres: bending moves the ball too
 * @param flat per frame, how much toes lie flat whatever they do now, 0 to 1; null leaves that to the motion
 */
export function bendTips(
  motion: Motion,
  globals: Globals,
  { toe, ball, tip }: ToePoints,
  ground: number,
  slack: number,
  flat: Float64Array | null = null,
): void {
  const J = globals.joints;
  const parent = motion.skeleton.joints[toe].parent;
  const [balls, tips] = [followPoint(globals, ball), followPoint(globals, tip)];
  const local = [0, 0, 0, 1];
  for (let f = 0; f < motion.frames; f++) {
    const along = minus(vecAt(tips, f), vecAt(balls, f));
    const length = norm(along);
    const level = Math.hypot(along[0], along[2]);
    if (length < 1e-6 || level < 1e-6) continue;
    const dips = Math.asin(Math.max(-1, Math.min(1, along[1] / length)));
    // As far as the floor asks, toes that lie flat no higher than the ball, which may be in it still; or all the way to flat.
    const over = Math.max(-1, Math.min(flat ? 0 : 1, (ground - slack - balls[f * 3 + 1]) / length));
    const least = over > along[1] / length ? Math.asin(over) - dips : 0;
    const asked = flat && dips < 0 ? Math.max(least, -dips * flat[f]) : least;
    if (asked <= 1e-5) continue;
    // Up is about the axis that points to the foot's right.
    const axis: Vec3 = unit(cross(along, [0, 1, 0]));
    multiply(local, 0, fromAxisAngle(axis, Math.min(MOST_BEND, asked)), 0, globals.rotations, (f * J + toe) * 4);
    multiplyInverse(motion.rotations, (f * J + toe) * 4, globals.rotations, (f * J + parent) * 4, local, 0);
  }
}
