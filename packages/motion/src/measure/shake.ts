import { noiseFloor } from '../math/noise-floor';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';

/**
 * How much the joints tremble: the noise of their places in the stillest moments, over all of them, millimetres.
 *
 * @param motion metres
 *
 * @example
 * shakeMm(motion) < 3; // true
 */
export function shakeMm(motion: Motion): number {
  const { positions, joints, frames } = forwardKinematics(motion);
  let sum = 0;
  for (let j = 0; j < joints; j++) {
    const place = [0, 1, 2].map((k) => Float64Array.from({ length: frames }, (_, f) => positions[(f * joints + j) * 3 + k]));
    sum += 3 * noiseFloor(place, motion.fps) ** 2;
  }
  return 1000 * Math.sqrt(sum / joints);
}
