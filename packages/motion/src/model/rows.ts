import { createMotion, type Motion } from './motion';
import type { Skeleton } from './skeleton';

/** Frames that are stored and travel together: about a hundred kilobytes for sixty joints. */
export const CHUNK_FRAMES = 120;

/** Numbers in a row: root place, rotations, then the places of the joints that move against their parents. */
export const rowWidth = (joints: number, moving: number): number => 3 + joints * 4 + moving * 3;

/**
 * Frames `first` to `first + frames` (excluded) of a motion as rows of numbers, one row a frame: how takes are stored and travel.
 *
 * @example
 * motionToRows(motion, 0, 2).length === 2 * (3 + 4 * motion.skeleton.joints.length); // true
 */
export function motionToRows(motion: Motion, first = 0, frames = motion.frames - first): Float32Array {
  const joints = motion.skeleton.joints.length;
  const moving = [...(motion.translations?.values() ?? [])];
  const width = rowWidth(joints, moving.length);
  const rows = new Float32Array(frames * width);
  for (let f = 0; f < frames; f++) {
    const source = first + f;
    rows.set(motion.rootPositions.subarray(source * 3, source * 3 + 3), f * width);
    rows.set(motion.rotations.subarray(source * joints * 4, (source + 1) * joints * 4), f * width + 3);
    moving.forEach((t, k) => rows.set(t.subarray(source * 3, source * 3 + 3), f * width + 3 + joints * 4 + k * 3));
  }
  return rows;
}

/**
 * The motion of such rows; `moving` are the joints whose places follow the rotations, in order.
 *
 * @example
 * motionFromRows(motionToRows(motion), motion.skeleton, motion.fps, []).frames === motion.frames; // true
 */
export function motionFromRows(rows: Float32Array, skeleton: Skeleton, fps: number, moving: readonly number[]): Motion {
  const joints = skeleton.joints.length;
  const width = rowWidth(joints, moving.length);
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
