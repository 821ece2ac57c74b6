import { z } from 'zod';
import { typicalCycle } from '../find/typical-cycle';
import { groundwork } from '../measure/groundwork';
import { alignSigns } from '../model/motion';
import type { Step } from './step';

export const typicalCycleParams = z.object({
  kind: z.literal('typical-cycle'),
  off: z.boolean().optional(),
  /** Strides left out, counted from 0; `auto`: those far from the average. */
  exclude: z.union([z.literal('auto'), z.array(z.int().min(0).max(10_000)).max(1000)]).default('auto'),
});
export type TypicalCycleParams = z.infer<typeof typicalCycleParams>;

/** Makes one stride of the several in the cut, by averaging them; `loop` closes it afterwards. */
export const typicalCycleStep: Step<'typical-cycle', TypicalCycleParams> = {
  kind: 'typical-cycle',
  params: typicalCycleParams,
  apply(clip, { exclude }) {
    const found = clip.loop || clip.travel ? null : groundwork(clip.motion);
    if (!found) return clip;
    const { motion } = typicalCycle(found, exclude);
    alignSigns(motion);
    // What lies beyond the cut is not beyond the average.
    return { ...clip, motion, lead: null, tail: null, way: undefined, contacts: undefined };
  },
};
