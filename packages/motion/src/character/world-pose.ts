import { multiply, multiplyInverse, rotate, type Numbers, type Quat } from '../math/quat';
import { turned, vecAt } from '../math/vec';
import { forwardKinematics } from '../model/kinematics';
import { cutMotion, type Motion } from '../model/motion';
import type { Joint, Skeleton } from '../model/skeleton';

/** Joints in the world in one pose: `joints · 3` places in metres and `joints · 4` rotations. */
export interface WorldPose {
  readonly positions: Float64Array;
  readonly rotations: Float64Array;
}

/**
 * @example
 * poseAt(motion, 30).positions.length === 3 * motion.skeleton.joints.length; // true
 */
export function poseAt(motion: Motion, frame: number): WorldPose {
  const { positions, rotations } = forwardKinematics(cutMotion(motion, frame, frame));
  return { positions: Float64Array.from(positions), rotations: Float64Array.from(rotations) };
}

export const copyPose = ({ positions, rotations }: WorldPose): WorldPose => ({
  positions: positions.slice(),
  rotations: rotations.slice(),
});

/**
 * Writes the rotations of a pose local to the parents.
 *
 * @example
 * const locals = new Float64Array(4 * motion.skeleton.joints.length);
 * localsOf(locals, 0, motion.skeleton, poseAt(motion, 30));
 * angleBetween(locals, 4, motion.rotations, (30 * motion.skeleton.joints.length + 1) * 4) < 1e-3; // true
 */
export function localsOf(out: Numbers, o: number, skeleton: Skeleton, { rotations }: WorldPose): void {
  skeleton.joints.forEach(({ parent }, j) => {
    if (parent < 0) for (let k = 0; k < 4; k++) out[o + j * 4 + k] = rotations[j * 4 + k];
    else multiplyInverse(out, o + j * 4, rotations, parent * 4, rotations, j * 4);
  });
}

/** In place: turns a joint and all that hangs from it about the joint, by a turn in the world. */
export function turnBelow(skeleton: Skeleton, { positions, rotations }: WorldPose, joint: number, turn: ArrayLike<number>): void {
  const isBelow = new Uint8Array(skeleton.joints.length);
  isBelow[joint] = 1;
  const arm = [0, 0, 0];
  for (let j = joint; j < skeleton.joints.length; j++) {
    if (j > joint && skeleton.joints[j].parent >= 0) isBelow[j] = isBelow[skeleton.joints[j].parent];
    if (!isBelow[j]) continue;
    multiply(rotations, j * 4, turn, 0, rotations, j * 4);
    for (let k = 0; k < 3; k++) arm[k] = positions[j * 3 + k] - positions[joint * 3 + k];
    rotate(arm, 0, turn, 0, arm, 0);
    for (let k = 0; k < 3; k++) positions[j * 3 + k] = positions[joint * 3 + k] + arm[k];
  }
}

/** The skeleton whose rest pose is a pose. */
export function posedSkeleton({ joints }: Skeleton, { positions, rotations }: WorldPose): Skeleton {
  return {
    joints: joints.map((joint, j): Joint => {
      const p = joint.parent;
      const turn: [number, number, number, number] = [0, 0, 0, 1];
      if (p < 0) return { ...joint, offset: vecAt(positions, j), restRotation: [rotations[0], rotations[1], rotations[2], rotations[3]] };
      multiplyInverse(turn, 0, rotations, p * 4, rotations, j * 4);
      const back = [-rotations[p * 4], -rotations[p * 4 + 1], -rotations[p * 4 + 2], rotations[p * 4 + 3]];
      const [x, y, z] = vecAt(positions, j);
      const [px, py, pz] = vecAt(positions, p);
      return { ...joint, offset: turned(back, 0, [x - px, y - py, z - pz]), restRotation: turn };
    }),
  };
}

/** The pose turned about the origin, and its lengths multiplied. */
export function turnedPose({ positions, rotations }: WorldPose, turn: Quat, scale = 1): WorldPose {
  const out = { positions: new Float64Array(positions.length), rotations: new Float64Array(rotations.length) };
  for (let j = 0; j * 3 < positions.length; j++) {
    rotate(out.positions, j * 3, turn, 0, positions, j * 3);
    multiply(out.rotations, j * 4, turn, 0, rotations, j * 4);
  }
  for (let i = 0; i < out.positions.length; i++) out.positions[i] *= scale;
  return out;
}
