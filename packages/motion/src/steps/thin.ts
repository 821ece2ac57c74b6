import { z } from 'zod';
import { thinnedKeys } from '../character/thinned-keys';
import { withContacts } from '../measure/clip-slides';
import { asItIs, defineStep, stepObject } from './definition';

const schema = stepObject('thin', {
  /** How far a point within 10 cm of any joint may be from where it was, millimetres; a foot that bears a tenth of it. */
  boundMm: z.number().min(0.01, 'A bound is 0.01 mm at least: without room no key can go.').max(50).default(0.5),
  /** Smoothly joined keys are cubic splines; straight ones are many more, for what reads nothing else. */
  joining: z.enum(['smooth', 'straight']).default('smooth'),
});
export type ThinParams = z.infer<typeof schema>;

/** Keys are left out when the clip is written, as many as a bound allows; what is seen and worked on stays as it is. */
export const thin = defineStep(schema, {
  title: 'Thin keys',
  about: 'Few keys in place of one on every frame, within a bound.',
  stages: ['keys', 'keys'],
  once: true,
  create: () => ({}),
  mapTime: asItIs,
  otherSide: asItIs,
  report(_, after) {
    const { kept, dense, worst } = thinnedKeys(withContacts(after)) ?? { kept: 0, dense: 0, worst: { frame: 0 } };
    return { label: 'keys', unit: '', digits: 0, before: dense, after: kept, at: worst.frame };
  },
  apply: (clip, { boundMm, joining }) => ({ ...clip, thin: { boundM: boundMm / 1000, joining } }),
});
