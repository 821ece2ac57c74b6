import { z } from 'zod';
import { InputError } from '../error';
import { bodyOf } from '../anatomy/body-of';
import { keepContacts, smoothBetween } from '../edit/smooth-between';
import { farthestAt } from '../measure/farthest';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import { worldMotion } from '../model/clip';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion } from '../model/motion';
import { BODY_PARTS, jointsOfPart, partOnOtherSide } from './body-parts';
import { defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const frame = z.int().min(-1e7).max(1e7);

const schema = stepObject('between', {
  /** What of the body is replaced. */
  of: z.enum(BODY_PARTS).default('all'),
  /** The frames whose poses the way leads from and to; they stay. */
  from: frame.default(0),
  to: frame.default(10),
  /** Frames in the middle that stay as they are too: the way leads through them. */
  keys: z.array(frame).max(1000).default([]),
  /** Feet that bear stay where they are. */
  contacts: z.boolean().default(true),
});
export type BetweenParams = z.infer<typeof schema>;

/** Frames replaced by the smooth way between two poses: what comes of deleting frames and putting one good pose in their middle. */
export const between = defineStep(schema, {
  title: 'Between',
  about: 'The smooth way between two frames in place of what was captured.',
  stages: ['body', 'time'],
  corrects: true,
  create: ({ clip }) => {
    // A quarter of the clip in its middle, until it is chosen.
    const last = (clip?.motion.frames ?? 41) - 1;
    return { from: Math.round(last * 0.375), to: Math.round(last * 0.625) };
  },
  mapTime: (step, { scale, shift }) => {
    const at = (own: number) => Math.round(own * scale + shift);
    return { ...step, from: at(step.from), to: at(step.to), keys: step.keys.map(at) };
  },
  otherSide: (step) => ({ ...step, of: partOnOtherSide(step.of) }),
  report(before, after) {
    const [a, b] = [before, after].map((clip) => forwardKinematics(worldMotion(clip)));
    const { metres, frame: at } = farthestAt(a, b);
    return { label: 'moves', unit: 'cm', digits: 1, before: null, after: metres * 100, at: metres > 0 ? at : undefined };
  },
  troubles: (before, { from, to }) => {
    const last = before.motion.frames - 1;
    if (to - from < 2)
      return [`Between frame ${from} and frame ${to} there is nothing to replace: the second has to be two frames later at least.`];
    return before.loop || (from >= 0 && to <= last)
      ? []
      : [`Frames ${from} to ${to} do not lie in the clip, which goes from 0 to ${last}.`];
  },
  apply(clip, { of, from, to, keys, contacts }) {
    const last = clip.motion.frames - 1;
    if (to - from < 2 || (!clip.loop && (from < 0 || to > last))) return clip;
    if (clip.loop && to - from > last)
      throw new InputError('between', `A cycle of ${last} frames has no ${to - from} frames to replace.`, { frame: from });
    const shown = played(clip);
    const body = bodyOf(clip.motion);
    if (!body && of !== 'all')
      throw new InputError('between', `This is not a person, so it has no ${of}; “all” can be replaced.`, { frame: from });
    const found = contacts && body ? groundwork(shown.motion) : null;
    const motion = copyMotion(shown.motion);
    const joints = body ? jointsOfPart(motion.skeleton, body, of) : motion.skeleton.joints.map((_, j) => j);
    // Round a loop the same frames come in the turns before and after.
    for (const by of clip.loop ? [-last, 0, last] : [0]) {
      const at = (own: number) => own + shown.start + by;
      if (at(from) < 0 || at(to) >= motion.frames) continue;
      smoothBetween(motion, joints, of === 'all', { from: at(from), to: at(to), keys: keys.map(at).sort((a, b) => a - b) });
      if (found) keepContacts(motion, found.globals, found.body, found.contacts, [at(from), at(to)], of === 'all');
    }
    return putBack(clip, motion, shown.start);
  },
});
