import { cross, fromBasis, inner, minus, norm, times, unit, type Quat, type Vec3 } from '@lantern/motion';
import type { Flesh } from './flesh';

/** A joint of a character as it stands in its bind pose. */
export interface BuiltJoint {
  readonly name: string;
  readonly parent: string | null;
  /** In the world, metres. */
  readonly at: Vec3;
  /** Where its bone goes; its axes are laid along it. */
  readonly to: Vec3;
}

/** A character as our own code builds it. */
export interface Build {
  readonly name: string;
  readonly joints: readonly BuiltJoint[];
  readonly flesh: Flesh;
  /** World rotation of a joint in the bind pose. */
  readonly axes: (joint: BuiltJoint) => Quat;
}

/** The direction of a bone; up for one without length. */
export const boneOf = ({ at, to }: BuiltJoint): Vec3 => (norm(minus(to, at)) < 1e-9 ? [0, 1, 0] : unit(minus(to, at)));

/** A frame whose first given axis lies along a bone and whose second is as near as can be to a wish. */
export function frameAlong(bone: Vec3, wish: Vec3): { readonly bone: Vec3; readonly second: Vec3; readonly third: Vec3 } {
  const aside = minus(wish, times(bone, inner(wish, bone)));
  const second = norm(aside) > 0.05 ? unit(aside) : unit(cross(bone, Math.abs(bone[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1]));
  return { bone, second, third: cross(bone, second) };
}

/** Joint axes with Y along the bone and Z to the front as far as that goes. */
export function yAlongBone(joint: BuiltJoint): Quat {
  const { bone, second } = frameAlong(boneOf(joint), [0, 0, 1]);
  return fromBasis(cross(bone, second), bone, second);
}

export const SIDES = [
  ['left', 1],
  ['right', -1],
] as const;
