import { bodyOf, withBody } from '../anatomy/body-of';
import { bodyOfParts, type Part } from '../anatomy/parts';
import { findParts } from '../character/find-parts';
import type { Motion } from '../model/motion';
import { sourceBase } from './base-pose';
import { corrected } from './corrected';

/** Joints by part of the body, where a person knows better than what was found; an empty list leaves the part out. */
export type Mapping = Readonly<Partial<Record<Part, readonly string[]>>>;

/**
 * A take with the body that a mapping made by hand gives it: legs, arms, hips and head are those joints, for every step and figure.
 *
 * @param motion metres, Y up
 * @returns the take as it is where nothing is mapped, or where the mapping leaves nobody with two legs
 * @example
 * const { skeleton } = withMapping(motion, { leftHand: ['LeftForearm'] });
 * skeleton.joints[skeleton.body.arms.left.wrist].name; // 'LeftForearm'
 */
export function withMapping(motion: Motion, mapping: Mapping): Motion {
  if (Object.keys(mapping).length === 0) return motion;
  const { skeleton } = motion;
  const found = findParts(skeleton, sourceBase(motion).pose, bodyOf(motion));
  const body = found && bodyOfParts(corrected(skeleton, found, mapping).parts);
  return body ? withBody(motion, body) : motion;
}
