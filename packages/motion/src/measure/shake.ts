import { noiseFloor } from '../math/noise-floor';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { trackOf } from '../model/track';

/**
 * How much the joints tremble: the noise of their places in the stillest moments, over all of them, millimetres.
 *
 * @param motion metres
 *
 * @example
 * shakeMm(motion) < 3; // true
 */
export function shakeMm(motion: Motion): number {
  const globals = forwardKinematics(motion);
  const { joints } = globals;
  let sum = 0;
  for (let j = 0; j < joints; j++) {
    const place = [0, 1, 2].map((k) => trackOf(globals, j, k));
    sum += 3 * noiseFloor(place, motion.fps) ** 2;
  }
  return 1000 * Math.sqrt(sum / joints);
}
