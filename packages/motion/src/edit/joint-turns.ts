import { DEGREES, RADIANS } from '../math/angles';
import { exp, log, multiply, multiplyInverse, type Numbers, type Vec3 } from '../math/quat';
import { mirrorMap } from '../anatomy/mirror-map';
import type { Skeleton } from '../model/skeleton';

/**
 * Turns of a joint in words that fit any skeleton: axis times degrees, in axes that point to the left, up and to the front in the rest pose and go along
 * with the joint. Seen in the mirror (x, y, z) becomes (x, −y, −z) of its partner.
 */
export interface JointTurns {
  /** The turn as a rotation in the joint's own axes, to be applied before its rotation. */
  toLocal(out: Numbers, o: number, joint: number, degrees: ArrayLike<number>): void;
  /** The other way. */
  toDegrees(joint: number, local: ArrayLike<number>, i: number): Vec3;
}

/**
 * @example
 * const turns = jointTurns(motion.skeleton);
 * const q = [0, 0, 0, 1];
 * turns.toLocal(q, 0, 3, [10, 0, 0]);
 * turns.toDegrees(3, q, 0); // [10, 0, 0]
 */
export function jointTurns(skeleton: Skeleton): JointTurns {
  const { reference } = mirrorMap(skeleton);
  const [v, q] = [
    [0, 0, 0],
    [0, 0, 0, 1],
  ];
  return {
    toLocal(out, o, joint, degrees) {
      for (let k = 0; k < 3; k++) v[k] = degrees[k] * RADIANS;
      exp(q, 0, v, 0);
      multiply(q, 0, q, 0, reference, joint * 4);
      multiplyInverse(out, o, reference, joint * 4, q, 0);
    },
    toDegrees(joint, local, i) {
      multiply(q, 0, reference, joint * 4, local, i);
      const [x, y, z, w] = reference.subarray(joint * 4, joint * 4 + 4);
      multiply(q, 0, q, 0, [-x, -y, -z, w], 0);
      log(v, 0, q, 0);
      return [v[0] * DEGREES, v[1] * DEGREES, v[2] * DEGREES];
    },
  };
}
