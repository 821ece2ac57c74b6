import { z } from 'zod';
import { lockFeet } from '../edit/lock-feet';
import { meetHome as meet, type HomeEnd } from '../edit/meet-home';
import { clipContacts } from '../measure/clip-slides';
import { groundwork } from '../measure/groundwork';
import { homeDistance } from '../measure/home-distance';
import { comingRound, played } from '../measure/played';
import { standsAt } from '../measure/stands';
import { worldMotion, type Clip } from '../model/clip';
import { homePoseSchema, type HomePose } from '../model/home-pose';
import { defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const schema = stepObject('meet-home', {
  /** Which end of the clip is in the home pose; `auto`: each end at which he stands, of a loop its first frame. */
  end: z.enum(['auto', 'first', 'last', 'both']).default('auto'),
  /** How long the body takes into the pose and out of it, seconds. */
  seconds: z.number().min(0.1).max(3).default(0.6),
  /** The home pose; left out, that of the set the clip is in. */
  pose: homePoseSchema.optional(),
});
export type MeetHomeParams = z.infer<typeof schema>;

/** Starts, stops, turns and idles brought into the home pose of their set, feet planted. */
export const meetHome = defineStep(schema, {
  title: 'Meet home',
  about: 'Ends brought into the home pose of the set, planted feet left alone.',
  stages: ['body', 'time'],
  create: () => ({}),
  mapTime: (step) => step,
  // Whichever side the clip is of, there is one home.
  otherSide: (step) => step,
  report: (before, after, { pose, end }) => ({
    label: 'home',
    unit: 'cm',
    digits: 1,
    before: pose ? worstEnd(before, pose, end) : null,
    after: pose ? worstEnd(after, pose, end) : null,
  }),
  troubles: (before, { pose, end }) =>
    !pose
      ? ['The set has no home pose yet: choose one in Set, or give the step its pose.']
      : homeEnds(before, end).length === 0
        ? ['He stands at neither end of the clip: there is no end to bring home.']
        : [],
  apply(clip, { pose, end, seconds }) {
    const shown = played(clip);
    const found = groundwork(shown.motion);
    const contacts = clipContacts(clip);
    const own = homeEnds(clip, end);
    if (!pose || !found || !contacts || own.length === 0) return clip;
    const last = clip.motion.frames - 1;
    const room = Math.max(1, Math.min(last, Math.round(seconds * clip.motion.fps)));
    const inPlay = clip.loop && shown.start > 0 ? comingRound(contacts, last, shown) : contacts;
    // A contact that goes on beyond the clip's end is cut off by it.
    const ends: HomeEnd[] = (clip.loop ? [0, last] : own).map((frame) => ({
      frame: frame + shown.start,
      before: clip.loop ? Math.min(room, last >> 1) : room,
      after: clip.loop ? Math.min(room, last >> 1) : room,
    }));
    const met = groundwork(meet(found, inPlay, pose, ends)) ?? found;
    // Where a foot is laid otherwise, what bears of it moves by millimetres; that is taken out again.
    const held = lockFeet(met, inPlay, { blend: 0.2, hips: true, level: false }, 1);
    return { ...putBack(clip, held, shown.start), contacts };
  },
});

/** The frames of a clip that are brought home. */
export function homeEnds(clip: Clip, end: MeetHomeParams['end']): number[] {
  const last = clip.motion.frames - 1;
  if (clip.loop) return [0];
  if (end !== 'auto') return end === 'both' ? [0, last] : [end === 'first' ? 0 : last];
  const ground = groundwork(clip.travel ? worldMotion(clip) : clip.motion);
  return ground ? [0, last].filter((frame) => standsAt(ground, frame)) : [];
}

function worstEnd(clip: Clip, pose: HomePose, end: MeetHomeParams['end']): number | null {
  const { motion, start } = played(clip);
  const ground = groundwork(motion);
  const ends = homeEnds(clip, end);
  return ground && ends.length > 0 ? Math.max(...ends.map((frame) => homeDistance(ground, frame + start, pose).cm)) : null;
}
