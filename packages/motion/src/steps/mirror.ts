import { z } from 'zod';
import { mirrorClip } from '../edit/mirror';
import type { Step } from './step';

export const mirrorParams = z.object({
  kind: z.literal('mirror'),
  off: z.boolean().optional(),
});
export type MirrorParams = z.infer<typeof mirrorParams>;

/** The other side of a clip: left is right. A foot lock after it finds the contacts anew on a skeleton that is not symmetric. */
export const mirror: Step<'mirror', MirrorParams> = {
  kind: 'mirror',
  params: mirrorParams,
  apply: mirrorClip,
};
