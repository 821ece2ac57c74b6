import type { Motion } from './motion';

/**
 * Motions of the same skeleton end to end, frame after frame.
 *
 * @example
 * joinMotions([cutMotion(motion, 0, 9), cutMotion(motion, 10, 29)]).frames; // 30
 */
export function joinMotions(motions: readonly Motion[]): Motion {
  const [first] = motions;
  const frames = motions.reduce((sum, motion) => sum + motion.frames, 0);
  const joints = first.skeleton.joints.length;
  const rotations = new Float32Array(frames * joints * 4);
  const rootPositions = new Float32Array(frames * 3);
  const translations = first.translations && new Map([...first.translations.keys()].map((j) => [j, new Float32Array(frames * 3)]));
  let at = 0;
  for (const motion of motions) {
    rotations.set(motion.rotations, at * joints * 4);
    rootPositions.set(motion.rootPositions, at * 3);
    translations?.forEach((t, j) => t.set(motion.translations?.get(j) ?? [], at * 3));
    at += motion.frames;
  }
  return { ...first, frames, rotations, rootPositions, translations };
}
