import { wrapAngle } from '../math/angles';
import { rotate } from '../math/quat';
import { worldMotion, type Clip } from './clip';
import { leading, moveFrames, type FloorTransform } from './floor-transform';
import type { Motion } from './motion';

/** The turn and shift by which the last frame of a closed loop is its first. */
export function cycleTransform({ motion, travel }: Pick<Clip, 'motion' | 'travel'>): FloorTransform {
  const last = motion.frames - 1;
  if (travel) {
    const turn = travel.heading[last] - travel.heading[0];
    const at = (f: number) => ({ x: travel.x[f], y: travel.y[f], z: travel.z[f] });
    return leading(at(0), at(last), turn);
  }
  const joints = motion.skeleton.joints.length;
  const facing = (f: number) => {
    const forward = [0, 0, 0];
    rotate(forward, 0, motion.rotations, f * joints * 4, [0, 0, 1], 0);
    return Math.atan2(forward[0], forward[2]);
  };
  const p = motion.rootPositions;
  const at = (f: number) => ({ x: p[f * 3], y: p[f * 3 + 1], z: p[f * 3 + 2] });
  return leading(at(0), at(last), wrapAngle(facing(last) - facing(0)));
}

/**
 * A loop played several times on end, in the world, its travel adding up: `times · F + 1` frames.
 *
 * @example
 * const loop = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) });
 * repeatLoop(loop, 3).frames === 3 * (loop.motion.frames - 1) + 1; // true
 */
export function repeatLoop(clip: Pick<Clip, 'motion' | 'travel'>, times: number): Motion {
  const motion = worldMotion(clip);
  const cycle = cycleTransform(clip);
  const last = motion.frames - 1;
  const order = Array.from({ length: times * last + 1 }, (_, i) => (i === times * last ? last : i % last));
  const out = pickFrames(motion, order);
  // Frames of the k-th repetition are moved k times; the very last frame is frame F of the last one.
  for (let k = 1; k < times; k++) moveFrames(out, cycle, k * last, times * last);
  for (let k = 1; k < times; k++) moveFrames(out, cycle, times * last, times * last + 1);
  return out;
}

/**
 * A motion of some frames of another, in the order given.
 *
 * @example
 * pickFrames(motion, [0, 5, 0]).frames; // 3
 */
export function pickFrames(motion: Motion, order: readonly number[]): Motion {
  const joints = motion.skeleton.joints.length;
  const rotations = new Float32Array(order.length * joints * 4);
  const rootPositions = new Float32Array(order.length * 3);
  order.forEach((f, i) => {
    rotations.set(motion.rotations.subarray(f * joints * 4, (f + 1) * joints * 4), i * joints * 4);
    rootPositions.set(motion.rootPositions.subarray(f * 3, f * 3 + 3), i * 3);
  });
  const translations =
    motion.translations &&
    new Map([...motion.translations].map(([j, t]) => [j, Float32Array.from(order.flatMap((f) => [...t.subarray(f * 3, f * 3 + 3)]))]));
  return { ...motion, frames: order.length, rotations, rootPositions, translations };
}
