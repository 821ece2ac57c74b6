import type { Body, Side } from '../model/body';
import type { Skeleton } from '../model/skeleton';

/** Hand, foot and all joints of the limbs of a side; −1 for what is not there. */
export interface SideJoints {
  readonly hand: number;
  readonly foot: number;
  readonly limbs: readonly number[];
}

export type Sides = Readonly<Record<Side, SideJoints>>;

/**
 * Hands, feet and limbs of either side.
 *
 * @example
 * const { left, right } = sidesOf(motion.skeleton, bodyOf(motion));
 * left.limbs.length === right.limbs.length; // true
 */
export function sidesOf(skeleton: Skeleton, body: Body): Sides {
  const parents = skeleton.joints.map((joint) => joint.parent);
  const below = (top: number) =>
    parents.flatMap((_, j) => {
      for (let k = j; k >= 0; k = parents[k]) if (k === top) return [j];
      return [];
    });
  const sideOf = (side: Side): SideJoints => ({
    hand: body.arms[side].wrist,
    foot: body.legs[side].ankle,
    limbs: [...below(body.legs[side].hip), ...(body.arms[side].shoulder >= 0 ? below(body.arms[side].shoulder) : [])],
  });
  return { left: sideOf('left'), right: sideOf('right') };
}
