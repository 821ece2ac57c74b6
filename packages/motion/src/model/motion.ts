import { InputError } from '../error';
import { makeContinuous } from '../math/quat';
import type { Skeleton } from './skeleton';

/**
 * Rotations of every joint over time, frame-major.
 *
 * - `rotations[(frame · J + joint) · 4]`: unit quaternions `x y z w`, local to the parent, continuous in sign.
 * - `rootPositions[frame · 3]`: joint 0 in the world, in the skeleton's units.
 * - `translations`: `frame · 3` numbers for each further joint whose local translation is not its offset.
 */
export interface Motion {
  readonly skeleton: Skeleton;
  readonly fps: number;
  readonly frames: number;
  readonly rotations: Float32Array;
  readonly rootPositions: Float32Array;
  readonly translations?: ReadonlyMap<number, Float32Array>;
}

/** Frames times joints that are held in memory at a time, at the most: an hour at 120 a second with a hundred and forty joints. */
const MOST_SAMPLES = 60_000_000;

/**
 * A motion of identity rotations, to be filled.
 *
 * @throws InputError `too-long` when nobody can mean as many frames
 *
 * @example
 * createMotion(motion.skeleton, 60, 2).rotations.length / motion.skeleton.joints.length; // 8
 */
export function createMotion(skeleton: Skeleton, fps: number, frames: number): Motion {
  if (frames * skeleton.joints.length > MOST_SAMPLES) {
    throw new InputError('too-long', `${frames} frames of ${skeleton.joints.length} joints are more than is read.`, { line: 1 });
  }
  const rotations = new Float32Array(frames * skeleton.joints.length * 4);
  for (let i = 3; i < rotations.length; i += 4) rotations[i] = 1;
  return { skeleton, fps, frames, rotations, rootPositions: new Float32Array(frames * 3) };
}

/**
 * One frame of somebody in the rest pose.
 *
 * @example
 * restMotion(motion.skeleton).frames; // 1
 */
export function restMotion(skeleton: Skeleton): Motion {
  const motion = createMotion(skeleton, 60, 1);
  motion.rootPositions.set(skeleton.joints[0].offset);
  skeleton.joints.forEach((joint, j) => motion.rotations.set(joint.restRotation, j * 4));
  return motion;
}

/**
 * A copy of frames `from` to `to`, both included.
 *
 * @throws InputError `cut-range` when the cut is empty or reaches outside the motion
 *
 * @example
 * cutMotion(motion, 30, 89).frames; // 60
 */
export function cutMotion(motion: Motion, from: number, to: number): Motion {
  if (!Number.isInteger(from) || !Number.isInteger(to) || from < 0 || to < from || to >= motion.frames) {
    throw new InputError(
      'cut-range',
      `The cut ${from} to ${to} does not lie in the take, whose frames go from 0 to ${motion.frames - 1}.`,
      { frame: from },
    );
  }
  const stride = motion.skeleton.joints.length * 4;
  return {
    ...motion,
    frames: to - from + 1,
    rotations: motion.rotations.slice(from * stride, (to + 1) * stride),
    rootPositions: motion.rootPositions.slice(from * 3, (to + 1) * 3),
    translations: motion.translations && new Map([...motion.translations].map(([j, t]) => [j, t.slice(from * 3, (to + 1) * 3)])),
  };
}

/**
 * @example
 * const copy = copyMotion(motion);
 * copy.rotations !== motion.rotations && copy.frames === motion.frames; // true
 */
export function copyMotion(motion: Motion): Motion {
  return cutMotion(motion, 0, motion.frames - 1);
}

/**
 * In place: signs of all joints' rotations made continuous along time.
 *
 * @example
 * const other = copyMotion(motion);
 * alignSigns(other);
 * other.frames === motion.frames; // true
 */
export function alignSigns(motion: Motion): void {
  const joints = motion.skeleton.joints.length;
  for (let j = 0; j < joints; j++) makeContinuous(motion.rotations, j * 4, motion.frames, joints * 4);
}
