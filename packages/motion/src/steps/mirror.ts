import { z } from 'zod';
import { mirrorClip } from '../edit/mirror';
import { asItIs, defineStep, stepObject } from './definition';

const schema = stepObject('mirror', {});
export type MirrorParams = z.infer<typeof schema>;

/** The other side of a clip: left is right. A foot lock after it finds the contacts anew on a skeleton that is not symmetric. */
export const mirror = defineStep(schema, {
  title: 'Mirror',
  about: 'Left is right and right is left.',
  stages: ['body', 'time'],
  swapsSides: true,
  create: () => ({}),
  mapTime: asItIs,
  otherSide: asItIs,
  apply: mirrorClip,
});
