import { z } from 'zod';
import { InputError } from '../error';
import { dutyFactor } from '../measure/cadence';
import { clipContacts } from '../measure/clip-slides';
import { wayOf } from '../measure/way';
import { swingArms } from '../edit/arm-swing';
import { bendWay } from '../edit/bend-way';
import { progressOf } from '../measure/progress';
import type { Clip } from '../model/clip';
import { retimed } from '../edit/retimed';
import { timeMap } from '../math/time-map';
import { onOtherWay } from './other-way';
import { settleSeam } from './settle';
import { asItIs, defineStep, stepObject } from './definition';
import { series } from '../math/series';

/** What is asked of strides and time for a speed. */
export interface SpeedChange {
  /** Of the length of a stride, and of the pace of time. */
  readonly stride: number;
  readonly cadence: number;
  /** Frames of the result, less one. */
  readonly frames: number;
  readonly mps: number;
}

/** Slower than this a clip goes nowhere, metres a second. */
const LEAST = 0.05;
/** A stroll, where nothing is known of the clip. */
const USUAL = 1.4;

const schema = stepObject('speed', {
  /** Metres a second that the clip shall go. */
  mps: z.number().min(LEAST).max(15),
  /** By longer strides, by quicker ones, or as people do: both, at the walk ratio of the clip; a run mostly by its strides. */
  by: z.enum(['mix', 'stride', 'cadence']).default('mix'),
  /** Arms swing further with longer strides. */
  arms: z.boolean().default(true),
});
export type SpeedParams = z.infer<typeof schema>;

/**
 * The clip at a speed: strides lengthened with the feet planted anew, time quickened, or both. People who walk keep the ratio of step length to
 * cadence (Sekiya, Nagasaki 1998), so each takes the root of the change; cadence in a run grows by 5.4 steps a minute with each metre a second.
 */
export const speed = defineStep(schema, {
  title: 'Speed',
  about: 'Faster or slower by strides, by cadence or both.',
  stages: ['way', 'way'],
  // It begins with what the clip has.
  create: ({ clip }) => ({ mps: Math.max(LEAST, Number(((clip && nowMps(clip)) ?? USUAL).toFixed(2))) }),
  mapTime: asItIs,
  otherSide: asItIs,
  sourceFrames: (before, after) => {
    const [from, to] = [before.motion.frames - 1, after.motion.frames - 1];
    return series(to + 1, (f) => (f * from) / Math.max(1, to));
  },
  report: (before, after) => ({ label: 'speed', unit: 'm/s', digits: 2, before: nowMps(before), after: nowMps(after) }),
  apply(clip, params) {
    const change = speedChange(clip, params);
    if (!change) {
      throw new InputError(
        'speed',
        'The clip goes nowhere, so it has no speed to change: retime it, or choose a stretch in which he goes.',
      );
    }
    const { fps } = clip.motion;
    const longer = onOtherWay(clip, 'speed', true, (way) => ({ way: bendWay(way, null, fps, change.stride).way, lean: null }));
    const swung =
      params.arms && Math.abs(change.stride - 1) > 0.01 ? { ...longer, motion: swingArms(longer.motion, change.stride) } : longer;
    if (change.frames === clip.motion.frames - 1) return swung;
    const ends = [
      { from: 0, to: 0 },
      { from: clip.motion.frames - 1, to: change.frames },
    ];
    const quicker = retimed(swung, timeMap(ends, clip.loop));
    return clip.loop ? { ...quicker, motion: settleSeam(quicker.motion) } : quicker;
  },
});

/** The speed of a clip over its whole way, metres a second; null when it goes nowhere. */
function nowMps(clip: Clip): number | null {
  const { fps, frames } = clip.motion;
  const { distance } = progressOf(clip.way ?? wayOf(clip.motion, clip.loop), fps);
  const mps = (distance[frames - 1] * fps) / (frames - 1);
  return mps < LEAST ? null : mps;
}

/**
 * @returns null when the clip goes nowhere
 *
 * @example
 * const stroll = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) });
 * speedChange(stroll, { mps: 1.6, by: 'mix' }).stride > 1; // true
 */
export function speedChange(clip: Clip, { mps, by }: Pick<SpeedParams, 'mps' | 'by'>): SpeedChange | null {
  const { fps, frames } = clip.motion;
  const last = frames - 1;
  const now = nowMps(clip);
  if (now === null) return null;
  const distance = (now * last) / fps;
  const asked = mps / now;
  const cadence = by === 'stride' ? 1 : by === 'cadence' ? asked : naturalCadence(clip, now, mps);
  const whole = Math.max(2, Math.round(last / cadence));
  // Whole frames change the cadence by a little; the strides take that up, so that the speed is what was asked for.
  return { stride: (mps * whole) / fps / distance, cadence: last / whole, frames: whole, mps: now };
}

/** Steps a minute of a run at a speed, over those at another: 148 + 5.4 v. */
const RUN = { base: 148, slope: 5.4 };

function naturalCadence(clip: Clip, now: number, mps: number): number {
  const contacts = clipContacts(clip);
  const isRun = contacts !== null && dutyFactor(clip, contacts) < 0.5;
  return isRun ? (RUN.base + RUN.slope * mps) / (RUN.base + RUN.slope * now) : Math.sqrt(mps / now);
}
