import { z } from 'zod';
import { InputError } from '../error';
import { bodyOf } from '../anatomy/body-of';
import { swapSides } from '../anatomy/side-names';
import { followLater, lagOf, type Later } from '../edit/follow-later';
import { played } from '../measure/played';
import type { Body } from '../model/body';
import type { Clip } from '../model/clip';
import { joinMotions } from '../model/join';
import { cutMotion, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { mapLength } from '../model/frame-map';
import { defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const PARTS = ['arms', 'left arm', 'right arm', 'head', 'joint'] as const;
const OTHER: Readonly<Partial<Record<string, (typeof PARTS)[number]>>> = { 'left arm': 'right arm', 'right arm': 'left arm' };

const schema = stepObject('delay', {
  /** What follows later: arms, head, or a joint by name with those that hang from it in a line, as a tail or a coat does. */
  of: z.enum(PARTS).default('arms'),
  joint: z.string().max(200).default(''),
  /** How much later the end of the chain is, frames. */
  frames: z.number().min(0).max(30).default(4),
  /** How much of it the chain begins with, 0 to 1; from there it grows along the chain. */
  first: z.number().min(0).max(1).default(0.3),
});
export type DelayParams = z.infer<typeof schema>;

/** Arms, head or another chain that follow later than the body, as what hangs does: in the world, growing along the chain. */
export const delay = defineStep(schema, {
  title: 'Follow later',
  about: 'Arms, head, a tail or a coat a few frames later than the body.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({}),
  mapTime: (step, time) => ({ ...step, frames: step.frames > 0 ? Math.min(30, mapLength(time, step.frames)) : 0 }),
  otherSide: (step) => ({
    ...step,
    of: OTHER[step.of] ?? step.of,
    joint: swapSides(step.joint),
  }),
  report: (before, after, step) => ({ label: 'lag', unit: 'frames', digits: 1, before: 0, after: lag(before, after, step) }),
  apply(clip, params) {
    if (params.frames === 0) return clip;
    const chains = chainsOf(clip.motion, params);
    if (clip.loop) {
      const shown = played(clip);
      // A cycle too short to be played on is late at its own beginning.
      return putBack(clip, followLater(shown.motion, chains.flat(), shown.start), shown.start);
    }
    const { lead } = clip;
    const isLed = lead !== null && clip.travel === null;
    if (!isLed) return { ...clip, motion: putBack(clip, followLater(played(clip).motion, chains.flat()), 0).motion };
    const whole = followLater(joinMotions([lead, clip.motion]), chains.flat());
    return { ...clip, motion: cutMotion(whole, lead.frames, whole.frames - 1) };
  },
});

/** The chains that follow later, each with how much later every joint of it is. @throws InputError when there is none */
function chainsOf(motion: Motion, params: Pick<DelayParams, 'of' | 'joint' | 'frames' | 'first'>): Later[][] {
  const { skeleton } = motion;
  if (params.of === 'joint') {
    const joint = skeleton.joints.findIndex(({ name }) => name === params.joint);
    if (joint < 1)
      throw new InputError(
        'joint',
        params.joint ? `There is no joint “${params.joint}” that could follow later.` : 'Say which joint follows later.',
        {
          joint: params.joint,
        },
      );
    return [grown(lineFrom(skeleton, joint), params)];
  }
  const body = bodyOf(motion);
  const chains = body ? limbsOf(skeleton, body, params.of).filter((chain) => chain.length > 0) : [];
  if (chains.length === 0)
    throw new InputError('joint', `This skeleton has no ${params.of === 'head' ? 'head' : 'arms'} that could follow later.`);
  return chains.map((chain) => grown(chain, params));
}

function limbsOf(skeleton: Skeleton, { arms, head, chest }: Body, of: 'arms' | 'left arm' | 'right arm' | 'head'): number[][] {
  const line = (from: number, to: number): number[] => {
    const out: number[] = [];
    for (let j = to; j >= 0; j = skeleton.joints[j].parent) {
      out.unshift(j);
      if (j === from) return out;
    }
    return [];
  };
  if (of === 'head') {
    const whole = line(chest, head);
    return [whole.length > 1 ? whole.slice(1) : head > 0 ? [head] : []];
  }
  const sides = of === 'arms' ? (['left', 'right'] as const) : of === 'left arm' ? (['left'] as const) : (['right'] as const);
  return sides.map((side) => {
    const { shoulder, elbow, wrist } = arms[side];
    return shoulder < 0 ? [] : line(shoulder, wrist >= 0 ? wrist : elbow >= 0 ? elbow : shoulder);
  });
}

/** A joint and what hangs from it, first child by first child. */
function lineFrom({ joints }: Skeleton, joint: number): number[] {
  const out = [joint];
  for (;;) {
    const next = joints.findIndex(({ parent }) => parent === out[out.length - 1]);
    if (next < 0) return out;
    out.push(next);
  }
}

const grown = (chain: readonly number[], { frames, first }: Pick<DelayParams, 'frames' | 'first'>): Later[] =>
  chain.map((joint, i) => ({ joint, frames: frames * (chain.length > 1 ? first + ((1 - first) * i) / (chain.length - 1) : 1) }));

/** How much later the end of the chain that is latest is. */
function lag(before: Clip, after: Clip, params: DelayParams): number {
  const [a, b] = [played(before), played(after)];
  const shown = [a.start, a.start + before.motion.frames] as const;
  return Math.max(...chainsOf(before.motion, params).map((chain) => lagOf(a.motion, b.motion, chain[chain.length - 1].joint, shown)));
}
