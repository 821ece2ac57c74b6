import { z } from 'zod';
import { hipSwayCm, swayHips } from '../edit/hip-sway';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import type { Motion } from '../model/motion';
import { asItIs, defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const factor = z.number().min(0).max(2).default(1);

const schema = stepObject('hips', {
  /** From side to side, up and down, and forwards and back about the way: 1 as it is, 0 not at all. */
  sway: factor,
  bounce: factor,
  surge: factor,
  /** Turned about the front (one hip lower), the vertical, and the line of the hips. */
  list: factor,
  twist: factor,
  tilt: factor,
  /** What stays where it is besides the feet. */
  chest: z.boolean().default(true),
  head: z.boolean().default(true),
  hands: z.boolean().default(false),
});
export type HipsParams = z.infer<typeof schema>;

/** The hips' own movement about their way made less or more, each part by a factor; the feet stay where they are. */
export const hips = defineStep(schema, {
  title: 'Hips',
  about: 'Sway, bounce, list and twist of the hips made less or more; the feet stay.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({ sway: 0.6 }),
  mapTime: asItIs,
  otherSide: asItIs,
  report(before, after) {
    const shown = played(before);
    const found = groundwork(shown.motion);
    const counted = [shown.start, shown.start + before.motion.frames] as const;
    // Both about the way before the step: about its own, hips that sway less would have a way that sways.
    const sway = (motion: Motion) => (found ? hipSwayCm(found, motion, counted) : null);
    return { label: 'sway', unit: 'cm', digits: 1, before: sway(shown.motion), after: sway(played(after).motion) };
  },
  apply(clip, params) {
    const { chest, head, hands, ...rest } = params;
    const { sway, bounce, surge, list, twist, tilt } = rest;
    if ([sway, bounce, surge, list, twist, tilt].every((own) => own === 1)) return clip;
    const shown = played(clip);
    const found = groundwork(shown.motion);
    if (!found) return clip;
    return putBack(clip, swayHips(found, { sway, bounce, surge, list, twist, tilt }, { chest, head, hands }), shown.start);
  },
});
