import type { Body } from '../model/body';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { findBody } from './find-body';

/**
 * Whose body a motion's skeleton is: as it is settled (see `withBody`), else found, once for a skeleton, from the first motion that is asked for.
 *
 * @returns null when it is not a person's
 * @example
 * motion.skeleton.joints[bodyOf(motion).legs.left.knee].name; // 'LeftShin'
 */
export function bodyOf(motion: Motion): Body | null {
  const { skeleton } = motion;
  if (skeleton.body !== undefined) return skeleton.body;
  const known = FOUND.get(skeleton);
  if (known !== undefined) return known;
  const found = findBody(motion);
  FOUND.set(skeleton, found);
  return found;
}

const FOUND = new WeakMap<Skeleton, Body | null>();

/** The motion with its body settled: what is cut from it or made of it keeps it. */
export const withBody = (motion: Motion, body: Body | null): Motion => ({ ...motion, skeleton: { ...motion.skeleton, body } });
