import type { Clip } from '../model/clip';
import { forwardKinematics } from '../model/kinematics';
import { halvesOf } from './other-half';

/**
 * How unlike the two halves of a cycle are: the root mean square distance, cm, of its joints from those of its mirror image a step on, both
 * in the space of the root. 0 for a cycle that does on the right what it does on the left.
 *
 * @returns null for what is no straight loop of steps by turns
 */
export function asymmetryCm(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>): number | null {
  const halves = halvesOf(clip);
  if (!halves) return null;
  const [a, b] = halves.samples.map((motion) => forwardKinematics(motion).positions);
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] - b[i]) ** 2;
  return Math.sqrt((sum * 3) / a.length) * 100;
}
