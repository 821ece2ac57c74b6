import type { Clip } from '../model/clip';
import type { Contacts } from '../model/contacts';
import { groundwork, type Groundwork } from './groundwork';
import { comingRound, ownContacts, played } from './played';
import { slides, type Slide } from './slide';

type Measured = Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>;

/**
 * Foot slide of every contact of a clip, in order of time; of a loop those that begin in its cycle, in frames of the clip.
 *
 * @param known when the feet bear, if that is settled; else what the clip says or what is measured
 * @param ground the clip as it plays, when it has been worked out already
 *
 * @example
 * clipSlides(cutClip(motion, best.from, best.to)).length > 0; // true
 */
export function clipSlides(
  clip: Measured,
  known: Contacts | undefined = clip.contacts,
  ground: Groundwork | null = groundwork(played(clip).motion),
): Slide[] {
  if (!ground) return [];
  const last = clip.motion.frames - 1;
  const start = (ground.motion.frames - clip.motion.frames) / 2;
  if (start === 0) return slides(ground.soles, known ?? ground.contacts);
  return slides(ground.soles, known ? comingRound(known, last, { motion: ground.motion, start }) : ground.contacts)
    .filter(({ from }) => from >= start && from < start + last)
    .map((slide) => ({ ...slide, from: slide.from - start, to: slide.to - start }));
}

/**
 * When the feet bear in a clip: as settled, else as measured; of a loop the contacts that begin in its cycle. Null for what has no legs.
 *
 * @example
 * clipContacts(cutClip(motion, best.from, best.to)).left.length > 0; // true
 */
export function clipContacts(clip: Measured): Contacts | null {
  if (clip.contacts) return clip.contacts;
  const { motion, start } = played(clip);
  const found = groundwork(motion)?.contacts;
  return (start > 0 && found && ownContacts(found, start, clip.motion.frames - 1)) || (found ?? null);
}

/**
 * The clip with when its feet bear settled: as it is, or as measured.
 *
 * @example
 * withContacts(cutClip(motion, best.from, best.to)).contacts.left.length > 0; // true
 */
export const withContacts = <Of extends Measured>(clip: Of): Of => ({
  ...clip,
  contacts: clip.contacts ?? clipContacts(clip) ?? undefined,
});
