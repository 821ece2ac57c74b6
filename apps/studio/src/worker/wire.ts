import { createMotion, type Motion, type Skeleton } from '@lantern/motion';

/** A motion as it goes between threads: it is plain data and typed arrays, and goes as it is. */
export type WireMotion = Motion;

/**
 * A take's motion, in file units, from the rows that the server sends: root place, rotations, then the places of the joints that
 * move against their parents.
 */
export function motionFromRows(rows: Float32Array, skeleton: Skeleton, fps: number, moving: readonly number[]): Motion {
  const joints = skeleton.joints.length;
  const width = 3 + joints * 4 + moving.length * 3;
  const frames = Math.floor(rows.length / width);
  const translations = new Map(moving.map((j) => [j, new Float32Array(frames * 3)]));
  const motion: Motion = { ...createMotion(skeleton, fps, frames), translations: moving.length > 0 ? translations : undefined };
  for (let f = 0; f < frames; f++) {
    const at = f * width;
    motion.rootPositions.set(rows.subarray(at, at + 3), f * 3);
    motion.rotations.set(rows.subarray(at + 3, at + 3 + joints * 4), f * joints * 4);
    moving.forEach((j, k) => {
      const from = at + 3 + joints * 4 + k * 3;
      translations.get(j)?.set(rows.subarray(from, from + 3), f * 3);
    });
  }
  return motion;
}
