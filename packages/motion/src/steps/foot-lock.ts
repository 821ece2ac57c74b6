import { z } from 'zod';
import { groundwork } from '../measure/groundwork';
import { comingRound, ownContacts, played } from '../measure/played';
import type { Clip } from '../model/clip';
import { lockFeet } from '../edit/lock-feet';
import { clipSlides } from '../measure/clip-slides';
import type { Slide } from '../measure/slide';
import { mapContacts, mapIntervals } from '../model/frame-map';
import { defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const intervals = z
  .array(
    z
      .object({ from: z.int().min(0).max(1e7), to: z.int().min(1).max(2e7) })
      .refine(({ from, to }) => to > from, 'A contact ends after it begins.'),
  )
  .max(2000);

const schema = stepObject('foot-lock', {
  /** How long a foot takes back to where it was captured after a contact, and from there before one, seconds. */
  blend: z.number().min(0.02).max(1).default(0.2),
  /** Lower the hips where a leg would not reach. */
  hips: z.boolean().default(true),
  /** Bring bearing feet to the level of their ground, and keep the others above it. */
  level: z.boolean().default(true),
  /** When the feet bear, as set by hand: frames of the clip, first and first after; in a loop a contact may end beyond its last frame. Else it is measured. */
  contacts: z.object({ left: intervals, right: intervals }).optional(),
});
export type FootLockParams = z.infer<typeof schema>;

/**
 * Holds planted feet. While a foot bears, whatever of its sole bears (heel, then ball, then tip) stays where it came down, on the level of
 * its ground; the correction is led in and out with the velocities that it has at the contact's edges. The legs follow in closed form, in
 * the plane their knees bend in, and the hips come down smoothly where a leg would not reach.
 *
 * Idea: Kovar, Schreiner, Gleicher, *Footskate Cleanup*, 2002.
 */
export const footLock = defineStep(schema, {
  title: 'Foot lock',
  about: 'Feet that bear stay where they came down.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({}),
  mapTime: (step, time) => (step.contacts ? { ...step, contacts: mapContacts(step.contacts, (all) => mapIntervals(time, all)) } : step),
  otherSide: (step) => (step.contacts ? { ...step, contacts: { left: step.contacts.right, right: step.contacts.left } } : step),
  report: (before, after) => {
    const slid = worstSlide(clipSlides(before, after.contacts));
    const worst = worstSlide(clipSlides(after));
    return {
      label: 'slide',
      figure: 'slideCm',
      unit: 'cm',
      digits: 2,
      before: slid?.excursionCm ?? null,
      after: worst?.excursionCm ?? null,
      at: worst?.from,
    };
  },
  apply: (clip, params) => holdFeet(clip, params, 2),
});

/** @param rounds the second takes what the first one's own bending left */
export function holdFeet(clip: Clip, params: FootLockParams, rounds: 1 | 2): Clip {
  const last = clip.motion.frames - 1;
  const shown = played(clip);
  const found = groundwork(shown.motion);
  if (!found) return clip;
  const known = params.contacts && { fps: shown.motion.fps, floorM: found.contacts.floorM, ...params.contacts };
  const contacts = known ?? (shown.start > 0 ? ownContacts(found.contacts, shown.start, last) : found.contacts);
  const locked = lockFeet(found, shown.start > 0 ? comingRound(contacts, last, shown) : contacts, params, rounds);
  return { ...putBack(clip, locked, shown.start), contacts };
}

const worstSlide = (all: readonly Slide[]): Slide | undefined => [...all].sort((a, b) => b.excursionCm - a.excursionCm)[0];
