import { z } from 'zod';
import { typicalCycle } from '../find/typical-cycle';
import { groundwork } from '../measure/groundwork';
import { alignSigns } from '../model/motion';
import { asItIs, defineStep, stepObject } from './definition';
import { lasts } from './reports';

const schema = stepObject('typical-cycle', {
  /** Strides left out, counted from 0; `auto`: those far from the average. */
  exclude: z.union([z.literal('auto'), z.array(z.int().min(0).max(10_000)).max(1000)]).default('auto'),
});
export type TypicalCycleParams = z.infer<typeof schema>;

/** Makes one stride of the several in the cut, by averaging them; `loop` closes it afterwards. */
export const typicalCycleStep = defineStep(schema, {
  title: 'Typical cycle',
  about: 'One stride that is the average of several.',
  stages: ['strides', 'strides'],
  once: true,
  create: () => ({}),
  mapTime: asItIs,
  otherSide: asItIs,
  // Its frames are those of no single stride.
  sourceFrames: null,
  report: lasts,
  apply(clip, { exclude }) {
    const found = clip.loop || clip.travel ? null : groundwork(clip.motion);
    if (!found) return clip;
    const { motion } = typicalCycle(found, exclude);
    alignSigns(motion);
    // What lies beyond the cut is not beyond the average.
    return { ...clip, motion, lead: null, tail: null, way: undefined, contacts: undefined };
  },
});
