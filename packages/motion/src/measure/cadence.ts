import type { Clip } from '../model/clip';
import type { Contacts } from '../model/contacts';
import { strideFrames } from './strides';

/**
 * Steps a minute: of a loop its landings over its length, else by the usual stride; null where nobody steps.
 *
 * @param contacts of the clip; of a loop those that begin in its cycle
 *
 * @example
 * const stroll = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) });
 * Math.round(cadence(stroll, clipContacts(stroll))) > 80; // true
 */
export function cadence(clip: Pick<Clip, 'motion' | 'loop'>, contacts: Contacts | undefined | null): number | null {
  if (!contacts) return null;
  const { fps } = clip.motion;
  const last = clip.motion.frames - 1;
  if (clip.loop) {
    const steps = contacts.left.length + contacts.right.length;
    return steps > 1 ? (steps / (last / fps)) * 60 : null;
  }
  const stride = strideFrames(contacts);
  return stride ? (2 * 60 * fps) / stride : null;
}

/** Share of the time that each foot bears, on the mean: above a half in a walk, below it in a run. @param contacts as for `cadence` */
export function dutyFactor({ motion }: Pick<Clip, 'motion'>, { left, right }: Pick<Contacts, 'left' | 'right'>): number {
  const bears = [...left, ...right].reduce((sum, { from, to }) => sum + to - from, 0);
  return bears / 2 / Math.max(1, motion.frames - 1);
}
