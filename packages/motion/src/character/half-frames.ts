import { normalize } from '../math/quat';
import type { Contacts } from '../model/contacts';
import type { Motion } from '../model/motion';
import type { Travel } from '../model/travel';
import { isRound, isTurnedOver, type Tracked } from './key-tracks';

/** How what is half-way between frames is found: on the cubic through its four neighbours (Catmull and Rom, 1974), or on the straight line. */
export type Between = 'cubic' | 'straight';

/**
 * Values with one more half-way between every two frames; rotations normalised.
 *
 * @param values rotations without changes of sign
 * @param round they come round at the end; else they hold their slope beyond it
 */
export function withHalves(
  values: ArrayLike<number>,
  size: number,
  frames: number,
  round: boolean,
  between: Between = 'cubic',
): Float64Array {
  const [far, near] = between === 'cubic' ? [-1 / 16, 9 / 16] : [0, 0.5];
  const out = new Float64Array((2 * frames - 1) * size);
  const last = frames - 1;
  // A cycle may come back to the same rotation with the other sign.
  const sign = size === 4 && round && isTurnedOver(values, last) ? -1 : 1;
  const at = (f: number, k: number): number => {
    if (f < 0) return round && last > 1 ? sign * values[(last + f) * size + k] : 2 * values[k] - values[Math.min(1, last) * size + k];
    if (f > last)
      return round && last > 1
        ? sign * values[(f - last) * size + k]
        : 2 * values[last * size + k] - values[Math.max(0, last - 1) * size + k];
    return values[f * size + k];
  };
  for (let f = 0; f < frames; f++)
    for (let k = 0; k < size; k++) {
      out[2 * f * size + k] = values[f * size + k];
      if (f < last) out[(2 * f + 1) * size + k] = near * (at(f, k) + at(f + 1, k)) + far * (at(f - 1, k) + at(f + 2, k));
    }
  if (size === 4) for (let f = 0; f < last; f++) normalize(out, (2 * f + 1) * 4);
  return out;
}

/** A clip at twice its rate. */
export function atTwiceTheRate(clip: Tracked, between: Between = 'cubic'): Tracked {
  const { motion, travel } = clip;
  const { frames, skeleton } = motion;
  const J = skeleton.joints.length;
  const rotations = new Float32Array((2 * frames - 1) * J * 4);
  const own = new Float64Array(frames * 4);
  for (let j = 0; j < J; j++) {
    for (let f = 0; f < frames; f++) own.set(motion.rotations.subarray((f * J + j) * 4, (f * J + j) * 4 + 4), f * 4);
    const fine = withHalves(own, 4, frames, isRound(clip, j), between);
    for (let f = 0; f < 2 * frames - 1; f++) rotations.set(fine.subarray(f * 4, f * 4 + 4), (f * J + j) * 4);
  }
  const places = (values: Float32Array) => Float32Array.from(withHalves(values, 3, frames, isRound(clip, 'place'), between));
  const fine: Motion = {
    ...motion,
    fps: motion.fps * 2,
    frames: 2 * frames - 1,
    rotations,
    rootPositions: places(motion.rootPositions),
    translations: motion.translations && new Map([...motion.translations].map(([j, values]) => [j, places(values)])),
  };
  const along = (values: Float64Array) => withHalves(values, 1, frames, false, between);
  const way: Travel | null = travel && { x: along(travel.x), y: along(travel.y), z: along(travel.z), heading: along(travel.heading) };
  return { motion: fine, travel: way, loop: clip.loop };
}

/** Contacts in frames of twice the rate. */
export const contactsAtTwice = ({ floorM, fps, left, right }: Contacts): Contacts => {
  const twice = (all: Contacts['left']) => all.map(({ from, to }) => ({ from: from * 2, to: to * 2 }));
  return { floorM, fps: fps * 2, left: twice(left), right: twice(right) };
};
