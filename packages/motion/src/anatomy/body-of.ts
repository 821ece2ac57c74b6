import type { Body } from './body';
import { findBody } from './find-body';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';

/**
 * Whose body a motion's skeleton is: found once for a skeleton, from the first motion that is asked for, or as it was settled.
 *
 * @returns null when it is not a person's
 */
export function bodyOf(motion: Motion): Body | null {
  const known = BODIES.get(motion.skeleton);
  if (known !== undefined) return known;
  const found = findBody(motion);
  BODIES.set(motion.skeleton, found);
  return found;
}

const BODIES = new WeakMap<Skeleton, Body | null>();

/** Whose body a skeleton is known to be; undefined where nobody has asked yet. */
export const knownBody = (skeleton: Skeleton): Body | null | undefined => BODIES.get(skeleton);

/** Settles whose body a skeleton is, where more is known than one motion shows: of its take, or by its mapping. */
export function knowBody(skeleton: Skeleton, body: Body | null): void {
  BODIES.set(skeleton, body);
}
