import { z } from 'zod';
import { dot, normalize } from '../math/quat';
import { toSpaceOf, worldMotion } from '../model/clip';
import { alignSigns, copyMotion, type Motion } from '../model/motion';
import { fromFrame, halvesOf } from '../measure/other-half';
import { repeatFirst } from './repeat-first';
import { settleSeam } from './settle';
import { asItIs, defineStep, stepObject } from './definition';
import { asymmetryCm } from '../measure/symmetry';

const schema = stepObject('even-out', {
  /** 0 leaves the cycle as it is, 1 makes the right half the mirror image of the left. */
  factor: z.number().min(0).max(1).default(1),
});
export type EvenOutParams = z.infer<typeof schema>;

/** Evens out a limp: the cycle averaged with its own mirror image a step on. Its way stays what it is. */
export const evenOut = defineStep(schema, {
  title: 'Even out',
  about: 'The right half of a cycle brought to the mirror image of the left: a limp taken out.',
  stages: ['evenness', 'evenness'],
  create: () => ({}),
  mapTime: asItIs,
  otherSide: asItIs,
  report: (before, after) => ({ label: 'asymmetry', unit: 'cm', digits: 2, before: asymmetryCm(before), after: asymmetryCm(after) }),
  apply(clip, { factor }) {
    const halves = factor > 0 ? halvesOf(clip, factor) : null;
    if (!halves) return clip;
    const { samples, way, start } = halves;
    const last = samples[0].frames - 1;
    const mixed = mixOf(samples, factor);
    const body = fromFrame(mixed, last - start);
    alignSigns(body);
    if (clip.travel) return { ...clip, motion: toSpaceOf(worldMotion({ motion: body, travel: way }), clip.travel), contacts: undefined };
    const world = worldMotion({ motion: body, travel: way });
    repeatFirst(world, last, way.heading[last] - way.heading[0], way.y[last]);
    const settled = settleSeam(world);
    alignSigns(settled);
    return { ...clip, motion: settled, way, contacts: undefined };
  },
});

/** The first of some motions led to the mean of all; for rotations that differ by little the normalised sum is the mean on the sphere. */
function mixOf(samples: readonly Motion[], factor: number): Motion {
  const [first] = samples;
  const out = copyMotion(first);
  const weight = (i: number) => factor / samples.length + (i === 0 ? 1 - factor : 0);
  const sum = (target: Float32Array, of: (sample: Motion) => ArrayLike<number>) => {
    target.fill(0);
    samples.forEach((sample, i) => {
      const values = of(sample);
      for (let k = 0; k < target.length; k++) target[k] += weight(i) * values[k];
    });
  };
  sum(out.rootPositions, (sample) => sample.rootPositions);
  out.translations?.forEach((t, j) => sum(t, (sample) => sample.translations?.get(j) ?? t.slice()));
  out.rotations.fill(0);
  for (let q = 0; q < out.rotations.length; q += 4) {
    samples.forEach((sample, i) => {
      const w = dot(first.rotations, q, sample.rotations, q) < 0 ? -weight(i) : weight(i);
      for (let k = 0; k < 4; k++) out.rotations[q + k] += w * sample.rotations[q + k];
    });
    normalize(out.rotations, q);
  }
  return out;
}
