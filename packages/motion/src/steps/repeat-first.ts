import { wrapAngle } from '../math/angles';
import { moveFrames } from '../model/floor-transform';
import { createMotion, type Motion } from '../model/motion';

/** In place: the last frame is the first, turned by the cycle, where the hips have come to, and by `climb` metres higher. */
export function repeatFirst(motion: Motion, last: number, turn: number, climb = 0): void {
  const joints = motion.skeleton.joints.length;
  const first = createMotion(motion.skeleton, motion.fps, 1);
  first.rotations.set(motion.rotations.subarray(0, joints * 4));
  moveFrames(first, { turn: wrapAngle(turn), x: 0, z: 0 });
  motion.rotations.set(first.rotations, last * joints * 4);
  motion.rootPositions[last * 3 + 1] = motion.rootPositions[1] + climb;
  motion.translations?.forEach((t) => t.copyWithin(last * 3, 0, 3));
}
