import type { Clip } from '../model/clip';
import type { Contacts } from './contacts';
import { strideFrames } from './strides';

/**
 * Steps a minute: of a loop its landings over its length, else by the usual stride; null where nobody steps.
 *
 * @param contacts of the clip; of a loop those that begin in its cycle
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
