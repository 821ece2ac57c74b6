import { z } from 'zod';
import { cadence } from '../measure/cadence';
import { clipContacts } from '../measure/clip-slides';
import type { Contacts } from '../model/contacts';
import type { Clip } from '../model/clip';
import { retimed } from '../edit/retimed';
import { timeMap, type TimePin } from '../math/time-map';
import { footLock, holdFeet } from './foot-lock';
import { mapLength, type FrameMap } from '../model/frame-map';
import { asItIs, defineStep, stepObject } from './definition';
import { lasts } from './reports';

const frame = z.number().min(0).max(1e6);

const schema = stepObject('retime', {
  /** How fast time goes where no pin says otherwise: 2 is twice as fast. */
  factor: z.number().min(0.1).max(10).default(1),
  /** How many frames the result lasts (a loop: its cycle), in frames of the clip's rate; takes the place of `factor`. */
  frames: z.int().min(2).max(1e6).optional(),
  /** Steps a minute that the result has; takes the place of `factor`. Of a clip without steps nothing is changed. */
  cadence: z.number().min(10).max(400).optional(),
  /** Frames of the clip (`from`) and the frames of the result at which they shall be (`to`). Two with the same `from` hold a pose. */
  pins: z
    .array(z.object({ from: frame, to: frame }))
    .max(200)
    .default([]),
});
export type RetimeParams = z.infer<typeof schema>;

/**
 * Another course of time, through pins: monotone and smooth between them, of a loop also where it comes round. Ends that are not pinned are
 * where `factor`, `frames` or `cadence` put them.
 */
export const retime = defineStep(schema, {
  title: 'Retime',
  about: 'Slower, quicker, or through time pins.',
  stages: ['way', 'time'],
  create: () => ({}),
  mapTime: (step, time) => ({
    ...step,
    ...(step.frames !== undefined && { frames: mapLength(time, step.frames, 2) }),
    pins: mapPins(time, step.pins),
  }),
  otherSide: asItIs,
  sourceFrames: (before, _, step) => timeMap(allPins(before, step), before.loop),
  report: lasts,
  apply(clip, params) {
    const pins = allPins(clip, params);
    const last = pins[pins.length - 1];
    const isSame = pins.every(({ from, to }) => from === to) && last.from === clip.motion.frames - 1;
    if (isSame) return clip;
    const result = retimed(clip, timeMap(pins, clip.loop));
    // What trembled too quickly to be seen is seen when time goes slower: feet that were held are held again.
    if (!result.contacts) return result;
    // The second round takes a tenth of a millimetre more; of a long clip it takes too long for what follows the pointer.
    const rounds = result.motion.frames > LONG ? 1 : 2;
    return holdFeet(result, { ...HELD, contacts: held(result.contacts) }, rounds);
  },
});

/** Frames from which on feet are held again in one round. */
const LONG = 400;
const HELD = footLock.schema.parse({ kind: 'foot-lock', level: false });

const held = ({ left, right }: Contacts) => ({ left: left.map((c) => ({ ...c })), right: right.map((c) => ({ ...c })) });

/** The pins of a step with its ends, first and last frame of the clip. */
export function allPins(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>, params: RetimeParams): TimePin[] {
  const last = clip.motion.frames - 1;
  const factor = factorOf(clip, params);
  const inner = params.pins.filter(({ from, to }) => (from > 0 || to > 0) && from < last).sort((a, b) => a.to - b.to);
  const end = params.pins.find(({ from }) => from >= last);
  const before = inner[inner.length - 1] ?? { from: 0, to: 0 };
  const to = end?.to ?? params.frames ?? before.to + (last - before.from) / factor;
  return [{ from: 0, to: 0 }, ...inner, { from: last, to: Math.max(1, Math.round(to)) }];
}

function factorOf(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>, params: RetimeParams): number {
  if (params.frames !== undefined) return (clip.motion.frames - 1) / params.frames;
  if (params.cadence === undefined) return params.factor;
  const now = cadence(clip, clipContacts(clip));
  return now ? params.cadence / now : 1;
}

/** Pins on the same instants of the motion and of the result; those that come before its beginning go. */
const mapPins = ({ scale, shift }: FrameMap, pins: readonly TimePin[]): { from: number; to: number }[] =>
  pins.map(({ from, to }) => ({ from: from * scale + shift, to: to * scale + shift })).filter(({ from, to }) => from >= 0 && to >= 0);
