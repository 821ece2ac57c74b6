import { multiply } from '../math/quat';
import { InputError } from '../error';
import type { Body } from '../model/body';
import { bodyOf } from './body-of';
import { mirrorMap, reflect, type MirrorPair } from './mirror-map';
import { copyMotion, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';

/**
 * A motion seen in the mirror x = 0, on the same skeleton. Joints without a partner are mirrored where they are.
 *
 * @throws InputError `mirror` when a limb of one side is not the partner of the other side's
 *
 * @example
 * mirrorMotion(motion).rootPositions[0] + motion.rootPositions[0]; // 0
 */
export function mirrorMotion(motion: Motion): Motion {
  const { skeleton, frames } = motion;
  const body = bodyOf(motion);
  const { pairs, before, after } = mirrorMap(skeleton, body);
  if (body) checkLimbs(skeleton, body, pairs);
  const J = skeleton.joints.length;
  const out = copyMotion(motion);
  const q = [0, 0, 0, 1];
  for (let f = 0; f < frames; f++) {
    out.rootPositions[f * 3] = -motion.rootPositions[f * 3];
    for (let j = 0; j < J; j++) {
      reflect(q, 0, motion.rotations, (f * J + pairs[j].partner) * 4);
      multiply(q, 0, before, j * 4, q, 0);
      multiply(out.rotations, (f * J + j) * 4, q, 0, after, j * 4);
    }
  }
  if (!motion.translations) return out;
  const translations = new Map<number, Float32Array>();
  for (const [j, t] of motion.translations) {
    const { partner } = pairs[j];
    const source = motion.translations.get(partner) ?? t;
    translations.set(j, mirrorPlaces(source, before, j));
  }
  return { ...out, translations };
}

/** Limbs that are not each other's partners would change sides in part. */
function checkLimbs({ joints }: Skeleton, { legs, arms }: Body, pairs: readonly MirrorPair[]): void {
  const check = (left: number, right: number, what: string) => {
    if (left < 0 || right < 0 || pairs[left].partner === right) return;
    throw new InputError(
      'mirror',
      `The ${what} cannot be mirrored: “${joints[left].name}” and “${joints[right].name}” hang on joints that are not each other’s partners.`,
      { joint: joints[left].name },
    );
  };
  for (const part of ['hip', 'knee', 'ankle'] as const) check(legs.left[part], legs.right[part], 'legs');
  for (const part of ['shoulder', 'elbow', 'wrist'] as const) check(arms.left[part], arms.right[part], 'arms');
}

/** Local places reflected and carried into the other parent's axes. */
function mirrorPlaces(source: Float32Array, turn: Float64Array, j: number): Float32Array {
  const out = new Float32Array(source.length);
  const [x, y, z, w] = [0, 1, 2, 3].map((k) => turn[j * 4 + k]);
  for (let i = 0; i < source.length; i += 3) {
    const v = [-source[i], source[i + 1], source[i + 2]];
    const t = [2 * (y * v[2] - z * v[1]), 2 * (z * v[0] - x * v[2]), 2 * (x * v[1] - y * v[0])];
    out[i] = v[0] + w * t[0] + y * t[2] - z * t[1];
    out[i + 1] = v[1] + w * t[1] + z * t[0] - x * t[2];
    out[i + 2] = v[2] + w * t[2] + x * t[1] - y * t[0];
  }
  return out;
}
