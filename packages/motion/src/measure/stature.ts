import { quantile } from '../math/statistics';
import { rotate } from '../math/quat';
import { bodyOf } from '../anatomy/body-of';
import { forwardKinematics } from '../model/kinematics';
import { mainJoints } from '../anatomy/main-joints';
import { createMotion, cutMotion, type Motion } from '../model/motion';

/**
 * Top of the body above its lowest point: in the rest pose if that stands, else in the tallest of the frames (their 90th
 * percentile, so that a reach overhead does not count). End sites count: the top of the head and the toes are usually those.
 *
 * @param motion Y up, any unit
 * @returns in the motion's unit
 */
export function statureOf(motion: Motion): number {
  const frames: number[] = [];
  const step = Math.max(1, Math.floor(motion.frames / 120));
  for (let f = 0; f < motion.frames; f += step) frames.push(extent(cutMotion(motion, f, f)));
  const standing = quantile(frames, 0.9);
  const rest = createMotion(motion.skeleton, motion.fps, 1);
  motion.skeleton.joints.forEach((joint, j) => rest.rotations.set(joint.restRotation, j * 4));
  const inRest = extent(rest);
  const whole = 1 + ankleShare(motion);
  // A rest pose that stands is about as tall as the frames; arms overhead or a folded pose is not.
  return (Math.abs(inRest / standing - 1) < 0.12 ? inRest : standing) * whole;
}

/** What is missing below ankles at which the legs end: they are at 4.5 % of the stature (Winter, 2009, and a sole). */
function ankleShare(motion: Motion): number {
  const body = bodyOf(motion);
  const { joints } = motion.skeleton;
  const isEnd = (j: number) => joints.every(({ parent }) => parent !== j) && joints[j].endSites.every((tip) => Math.hypot(...tip) < 1e-9);
  return body && isEnd(body.legs.left.ankle) && isEnd(body.legs.right.ankle) ? 0.045 / (1 - 0.045) : 0;
}

/** Highest minus lowest point, joints and end sites, of a motion of one frame. */
function extent(motion: Motion): number {
  const { positions, rotations } = forwardKinematics(motion);
  let low = Infinity;
  let high = -Infinity;
  const tip = [0, 0, 0];
  mainJoints(motion.skeleton).forEach((j) => {
    const joint = motion.skeleton.joints[j];
    const y = positions[j * 3 + 1];
    low = Math.min(low, y);
    high = Math.max(high, y);
    for (const site of joint.endSites) {
      rotate(tip, 0, rotations, j * 4, site, 0);
      low = Math.min(low, y + tip[1]);
      high = Math.max(high, y + tip[1]);
    }
  });
  return high - low;
}
