import { z } from 'zod';
import { bodyOf } from '../anatomy/body-of';
import { fingerJoints } from '../character/finger-curl';
import { exp, multiply, multiplyInverse, slerp } from '../math/quat';
import { RADIANS } from '../math/angles';
import { touchRamp } from '../edit/touch-goals';
import type { Clip } from '../model/clip';
import { alignSigns, copyMotion, type Motion } from '../model/motion';
import { restPose } from '../model/skeleton';
import { defineStep, stepObject } from './definition';

/** Degrees that every joint of a finger curls from the rest pose, from the knuckle on, and those of the thumb. */
const POSES = {
  neutral: { fingers: [18, 24, 16], thumb: [8, 10, 10] },
  flat: { fingers: [0, 0, 0], thumb: [0, 0, 0] },
  hook: { fingers: [30, 62, 48], thumb: [12, 16, 14] },
  fist: { fingers: [72, 92, 58], thumb: [24, 34, 40] },
} as const;

const frame = z.int().min(-1e7).max(1e7);

const schema = stepObject('hands', {
  side: z.enum(['both', 'left', 'right']).default('both'),
  /** A hand of ours, or the fingers of one frame of the clip. */
  pose: z.enum(['neutral', 'flat', 'hook', 'fist', 'frame']).default('neutral'),
  /** The frame whose fingers all the others get. */
  frame: frame.default(0),
  /** The wrist straight, as it is in the rest pose, by a share; 0 leaves it. */
  wrist: z.number().min(0).max(1).default(0),
  /** From frame to frame, with as many frames of fading outside; left out: all of the clip. */
  from: frame.optional(),
  to: frame.optional(),
  fade: z.int().min(0).max(10_000).default(6),
});
export type HandsParams = z.infer<typeof schema>;

/** Fingers, which few suits capture, in one pose: on all frames, or from one to another. */
export const hands = defineStep(schema, {
  title: 'Hands',
  about: 'A neutral hand, or one frame’s fingers, on all frames or some.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({}),
  mapTime: (step, { scale, shift }) => {
    const at = (own: number) => Math.round(own * scale + shift);
    return {
      ...step,
      frame: at(step.frame),
      ...(step.from !== undefined && { from: at(step.from) }),
      ...(step.to !== undefined && { to: at(step.to) }),
      fade: step.fade > 0 ? Math.max(1, Math.round(step.fade * scale)) : 0,
    };
  },
  otherSide: (step) => ({ ...step, side: OTHER[step.side] }),
  report(before, after) {
    return { label: 'frames', unit: '', digits: 0, before: null, after: framesChanged(before.motion, after.motion) };
  },
  troubles: (before, step) => {
    const body = bodyOf(before.motion);
    if (!body) return ['This is not a person: it has no hands.'];
    return sidesOf(step.side)
      .filter((side) => step.wrist === 0 && fingerJoints(before.motion.skeleton, body, side).length === 0)
      .map((side) => `The ${side} hand has no fingers on this skeleton; its wrist can be made straight.`);
  },
  apply(clip, step) {
    const body = bodyOf(clip.motion);
    if (!body) return clip;
    const weights = weightsOf(clip, step);
    const motion = copyMotion(clip.motion);
    const { skeleton } = motion;
    const J = skeleton.joints.length;
    const { rotations } = restPose(skeleton);
    const pose = [0, 0, 0, 1];
    const put = (joint: number, share: number) => {
      for (let f = 0; f < motion.frames; f++) {
        const at = (f * J + joint) * 4;
        if (weights[f] > 0) slerp(motion.rotations, at, clip.motion.rotations, at, pose, 0, weights[f] * share);
      }
    };
    const from = Math.min(motion.frames - 1, Math.max(0, step.frame));
    for (const side of sidesOf(step.side)) {
      for (const { joint, axis, isThumb, place } of fingerJoints(skeleton, body, side)) {
        if (step.pose === 'frame') for (let k = 0; k < 4; k++) pose[k] = clip.motion.rotations[(from * J + joint) * 4 + k];
        else {
          const curl = POSES[step.pose][isThumb ? 'thumb' : 'fingers'];
          const radians = curl[Math.min(place, curl.length - 1)] * RADIANS;
          // Turned in the world of the rest pose, then as seen from the joint above.
          exp(pose, 0, [axis[0] * radians, axis[1] * radians, axis[2] * radians], 0);
          multiply(pose, 0, pose, 0, rotations, joint * 4);
          multiplyInverse(pose, 0, rotations, skeleton.joints[joint].parent * 4, pose, 0);
        }
        put(joint, 1);
      }
      const { wrist } = body.arms[side];
      if (step.wrist === 0 || wrist < 0) continue;
      skeleton.joints[wrist].restRotation.forEach((v, k) => (pose[k] = v));
      put(wrist, step.wrist);
    }
    alignSigns(motion);
    return { ...clip, motion };
  },
});

const OTHER = { both: 'both', left: 'right', right: 'left' } as const;

const sidesOf = (side: HandsParams['side']): readonly ('left' | 'right')[] => (side === 'both' ? ['left', 'right'] : [side]);

/** How much of the pose every frame gets; round a loop a stretch that reaches over an end comes in at the other. */
function weightsOf({ motion, loop }: Clip, { from, to, fade }: HandsParams): number[] {
  const last = motion.frames - 1;
  if (from === undefined && to === undefined) return new Array<number>(motion.frames).fill(1);
  const stretch = { from: from ?? 0, to: Math.max(from ?? 0, to ?? last), fadeIn: fade, fadeOut: fade };
  return Array.from({ length: motion.frames }, (_, f) =>
    Math.max(...(loop ? [-last, 0, last] : [0]).map((by) => touchRamp(stretch, f + by))),
  );
}

/** In how many frames any joint is turned otherwise: none on a hand without fingers. */
function framesChanged(a: Motion, b: Motion): number {
  const stride = a.skeleton.joints.length * 4;
  let count = 0;
  for (let f = 0; f < a.frames; f++) {
    let i = f * stride;
    while (i < (f + 1) * stride && a.rotations[i] === b.rotations[i]) i++;
    if (i < (f + 1) * stride) count++;
  }
  return count;
}
