import { z } from 'zod';
import { InputError } from '../error';
import { progressOf } from '../measure/progress';
import { asItIs, defineStep, stepObject } from './definition';
import { changedInSwings, endToEnd } from './exact';

const schema = stepObject('exact-distance', {
  /** Of the hips on the floor, straight from the first frame to the last, metres. */
  metres: z.number().min(0.05).max(50).default(1),
});
export type ExactDistanceParams = z.infer<typeof schema>;

/** A start or a stop brought to exactly a distance: what lacks, or is too much, comes while feet are in the air, so that no planted foot moves. */
export const exactDistance = defineStep(schema, {
  title: 'Exact distance',
  about: 'Gone for exactly a distance, planted feet left alone.',
  stages: ['way', 'way'],
  create: ({ clip }) => ({ metres: Math.max(0.05, Number(((clip && endToEnd(clip)?.metres) || 1).toFixed(2))) }),
  mapTime: asItIs,
  otherSide: asItIs,
  report: (before, after) => ({
    label: 'distance',
    unit: 'm',
    digits: 3,
    before: endToEnd(before)?.metres ?? null,
    after: endToEnd(after)?.metres ?? null,
  }),
  apply(clip, { metres }) {
    const now = endToEnd(clip);
    if (!now) return clip;
    if (now.metres < 0.05)
      throw new InputError('exact-distance', 'The clip goes nowhere, so there is no direction in which to bring it to a distance.');
    const { fps } = clip.motion;
    const lack = metres - now.metres;
    return changedInSwings(
      clip,
      'exact-distance',
      (way) => progressOf(way, fps).step,
      (way, share) => ({
        ...way,
        x: way.x.map((x, f) => x + now.x * lack * share[f]),
        z: way.z.map((z, f) => z + now.z * lack * share[f]),
      }),
    );
  },
});
