import type { Skeleton } from '@lantern/motion';
import type { WireMotion } from '@/worker/wire';

/** A pose against its root, and where the root is. */
export interface RootedPose {
  readonly rotations: ArrayLike<number>;
  readonly hips: ArrayLike<number>;
  readonly root: ArrayLike<number>;
}

/** A motion of one frame, to be written over. */
export function oneFrame(skeleton: Skeleton): WireMotion {
  return { skeleton, fps: 60, frames: 1, rotations: new Float32Array(skeleton.joints.length * 4), rootPositions: new Float32Array(3) };
}

/** In place: a pose in the world. */
export function writePose({ rotations, hips, root }: RootedPose, motion: WireMotion): void {
  const [x, z, heading] = [root[0], root[1], root[2]];
  const [s, c] = [Math.sin(heading), Math.cos(heading)];
  motion.rotations.set(rotations);
  const half = { s: Math.sin(heading / 2), c: Math.cos(heading / 2) };
  const [qx, qy, qz, qw] = [rotations[0], rotations[1], rotations[2], rotations[3]];
  // The turn of the root before that of joint 0.
  motion.rotations[0] = half.c * qx + half.s * qz;
  motion.rotations[1] = half.c * qy + half.s * qw;
  motion.rotations[2] = half.c * qz - half.s * qx;
  motion.rotations[3] = half.c * qw - half.s * qy;
  motion.rootPositions[0] = c * hips[0] + s * hips[2] + x;
  motion.rootPositions[1] = hips[1];
  motion.rootPositions[2] = c * hips[2] - s * hips[0] + z;
}
