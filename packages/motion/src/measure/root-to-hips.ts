import type { Motion } from '../model/motion';

/**
 * The greatest distance on the floor between hips and root, cm: how far the body leaves the capsule that a game moves it by.
 *
 * @param motion in the space of its root
 */
export function rootToHipsCm(motion: Motion): number {
  let most = 0;
  for (let f = 0; f < motion.frames; f++) most = Math.max(most, Math.hypot(motion.rootPositions[f * 3], motion.rootPositions[f * 3 + 2]));
  return most * 100;
}
