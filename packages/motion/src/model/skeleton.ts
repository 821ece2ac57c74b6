import { multiply, rotate, type Quat, type Vec3 } from '../math/quat';
import type { Body } from './body';

/** A joint of a hierarchy. `offset` and `restRotation` are local to the parent, in the rest pose. */
export interface Joint {
  readonly name: string;
  /** Index of the parent, always smaller than the joint's own; −1 for the first joint. */
  readonly parent: number;
  /** In the skeleton's units (a take's file units, or metres after `toMetres`). */
  readonly offset: Vec3;
  readonly restRotation: Quat;
  /** Tips of the bones that end without a further joint (a toe, the top of the head), local to this joint. */
  readonly endSites: readonly Vec3[];
}

/** Joints with parents before children; joint 0 is the only one without a parent (usually the hips). */
export interface Skeleton {
  readonly joints: readonly Joint[];
  /** Whose body it is, once that is settled (null: nobody's): every step and figure goes by it. Left out: it is found. */
  readonly body?: Body | null;
}

export function childrenOf(skeleton: Skeleton): readonly (readonly number[])[] {
  const children: number[][] = skeleton.joints.map(() => []);
  skeleton.joints.forEach((joint, j) => {
    if (joint.parent >= 0) children[joint.parent].push(j);
  });
  return children;
}

/**
 * The same skeleton with every length multiplied.
 *
 * @example
 * scaleSkeleton(motion.skeleton, 2).joints[1].offset[1] / motion.skeleton.joints[1].offset[1]; // 2
 */
export function scaleSkeleton(skeleton: Skeleton, factor: number): Skeleton {
  const scale = (v: Vec3): Vec3 => [v[0] * factor, v[1] * factor, v[2] * factor];
  return {
    joints: skeleton.joints.map((joint) => ({
      ...joint,
      offset: scale(joint.offset),
      endSites: joint.endSites.map(scale),
    })),
  };
}

/** Joint positions of the rest pose with joint 0 at its offset: `joints · 3` numbers. */
export function restPositions(skeleton: Skeleton): Float64Array {
  return restPose(skeleton).positions;
}

/**
 * @example
 * restPose(motion.skeleton).positions.length === 3 * motion.skeleton.joints.length; // true
 */
export function restPose(skeleton: Skeleton): { positions: Float64Array; rotations: Float64Array } {
  const positions = new Float64Array(skeleton.joints.length * 3);
  const rotations = new Float64Array(skeleton.joints.length * 4);
  skeleton.joints.forEach((joint, j) => {
    const p = joint.parent;
    if (p < 0) {
      positions.set(joint.offset, j * 3);
      rotations.set(joint.restRotation, j * 4);
      return;
    }
    rotate(positions, j * 3, rotations, p * 4, joint.offset, 0);
    for (let k = 0; k < 3; k++) positions[j * 3 + k] += positions[p * 3 + k];
    multiply(rotations, j * 4, rotations, p * 4, joint.restRotation, 0);
  });
  return { positions, rotations };
}
