import { multiplyInverse } from '../math/quat';
import type { Motion } from '../model/motion';
import { jointTurns } from './joint-turns';

/**
 * How a joint is turned from its rest pose, frame by frame: axis times degrees about the lines that point to the left, up and to the front in the rest
 * pose, three numbers a frame.
 *
 * @example
 * jointBend(motion, 3).length === 3 * motion.frames; // true
 */
export function jointBend({ skeleton, frames, rotations }: Motion, joint: number): Float32Array {
  const turns = jointTurns(skeleton);
  const J = skeleton.joints.length;
  const out = new Float32Array(frames * 3);
  const local = [0, 0, 0, 1];
  for (let f = 0; f < frames; f++) {
    multiplyInverse(local, 0, skeleton.joints[joint].restRotation, 0, rotations, (f * J + joint) * 4);
    out.set(turns.toDegrees(joint, local, 0), f * 3);
  }
  return out;
}
