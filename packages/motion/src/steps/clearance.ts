import { z } from 'zod';
import { bodyOf } from '../anatomy/body-of';
import { bodyCapsules, type BodyCapsules } from '../character/body-capsules';
import type { Cast } from '../character/character';
import { clearLimbs, depthsOf } from '../edit/clear-limbs';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import type { Body } from '../model/body';
import type { Clip } from '../model/clip';
import type { Skeleton } from '../model/skeleton';
import { asItIs, defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const schema = stepObject('clearance', {
  /** Centimetres that arms and legs stay off what they would go into. */
  room: z.number().min(-10).max(20).default(0.5),
});
export type ClearanceParams = z.infer<typeof schema>;

/** Arms and hands out of trunk and legs, legs that do not bear out of each other; what touches nothing stays as it is. */
export const clearance = defineStep(schema, {
  title: 'Clearance',
  about: 'Arms out of trunk and coat, legs out of each other.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({}),
  mapTime: asItIs,
  otherSide: asItIs,
  report(before, after) {
    const [was, is] = [before, after].map(deepestIn);
    return { label: 'deepest', unit: 'cm', digits: 1, before: was && was.deepest * 100, after: is && is.deepest * 100, at: is?.frame };
  },
  troubles: (before) => (bodyOf(before.motion) ? [] : ['This is not a person: nothing is known of its trunk and limbs.']),
  apply(clip, { room }, { cast }) {
    const shown = played(clip);
    const found = groundwork(shown.motion);
    if (!found) return clip;
    const capsules = capsulesOf(clip.motion.skeleton, found.body, cast);
    const cleared = clearLimbs(shown.motion, found.body, capsules, found.contacts, room / 100);
    return putBack(clip, cleared, shown.start);
  },
});

/** The character's own skin, where the clip is on a character; reports know no cast, and go by what was found when the step was run. */
const KNOWN = new WeakMap<Skeleton, BodyCapsules>();

function capsulesOf(skeleton: Skeleton, body: Body, cast: Cast): BodyCapsules {
  const known = KNOWN.get(skeleton);
  if (known) return known;
  const character = [...cast.values()].find(
    (own) =>
      own.skeleton.joints.length === skeleton.joints.length && own.skeleton.joints.every(({ name }, j) => name === skeleton.joints[j].name),
  );
  const made = bodyCapsules(skeleton, body, character?.skin ?? null);
  KNOWN.set(skeleton, made);
  return made;
}

function deepestIn(clip: Clip) {
  const found = groundwork(clip.motion);
  return found && depthsOf(clip.motion, found.body, capsulesOf(clip.motion.skeleton, found.body, new Map()), found.contacts);
}
