import { z } from 'zod';
import { InputError } from '../error';
import { fitMotion } from '../fit/fit-motion';
import { fitOverrides, fitSettingsSchema, LIMBS, type FitOverrides, type Placement } from '../fit/settings';
import { joinMotions } from '../model/join';
import { cutMotion } from '../model/motion';
import { asItIs, defineStep, stepObject } from './definition';
import { swapSides } from '../anatomy/side-names';
import type { FrameMap } from '../model/frame-map';

const schema = stepObject('fit', {
  /** Whom the clip is fitted to, one of the project's characters. */
  character: z.string().min(1).max(200),
  /** What is otherwise in this clip than in the fit that is saved for its suit and this character. */
  ...fitOverrides.shape,
});
export type FitParams = z.infer<typeof schema>;

/**
 * Carries the clip, and what the take has around it, to the joints of a character: the first step of all, before anything is cleaned. What the
 * clip does not say is as saved for the pair of skeletons, or as it is by default.
 */
export const fit = defineStep(schema, {
  title: 'Fit',
  about: 'The motion carried onto a character.',
  stages: ['body', 'body'],
  once: true,
  create: ({ characters: [character = ''] }) => ({ character }),
  settle: (step, { signature, fits }) => {
    const of = fits.filter(({ character }) => character === step.character);
    const saved = of.find(({ source }) => source === signature) ?? of.find(({ source }) => source === undefined);
    if (!saved) return step;
    const { source: _source, ...settings } = saved;
    return { ...settings, ...step };
  },
  mapTime: (step, time) =>
    step.placement ? { ...step, placement: mapPlacement(step.placement, (one) => ({ ...one, holds: mapHolds(time, one.holds) })) } : step,
  otherSide: (step) => ({
    ...step,
    ...(step.placement && { placement: swapped(step.placement) }),
    ...(step.offsets && { offsets: swapped(step.offsets, acrossX) }),
  }),
  apply(clip, { kind: _kind, id: _id, off: _off, character: id, ...settings }, { cast }) {
    const character = cast.get(id);
    if (!character) throw new InputError('fit', `The character "${id}" is not among the project's.`, { field: 'characters' });
    if (clip.loop || clip.travel)
      throw new InputError('fit', 'A fit comes before every other step: a loop or a root is made of what it gives.');
    const { lead, motion, tail } = clip;
    const whole = joinMotions([...(lead ? [lead] : []), motion, ...(tail ? [tail] : [])]);
    const start = lead?.frames ?? 0;
    const fitted = fitMotion(whole, character, fitSettingsSchema.parse(settings), -start);
    const end = start + motion.frames;
    const along = fitted.space.alongScale;
    return {
      ...clip,
      belt: clip.belt && { x: clip.belt.x.map((v) => v * along), z: clip.belt.z.map((v) => v * along) },
      motion: cutMotion(fitted.motion, start, end - 1),
      lead: lead && cutMotion(fitted.motion, 0, start - 1),
      tail: tail && cutMotion(fitted.motion, end, whole.frames - 1),
      contacts: undefined,
      way: undefined,
    };
  },
});

type Placements = NonNullable<FitOverrides['placement']>;

function mapPlacement(placement: Placements, change: (one: Placement) => Placement): Placements {
  const out: Placements = {};
  for (const limb of LIMBS) {
    const one = placement[limb];
    if (one) out[limb] = change(one);
  }
  return out;
}

/** Stretches in which a place is kept; they may lie before the cut. */
const mapHolds = ({ scale, shift }: FrameMap, holds: Placement['holds']): Placement['holds'] =>
  holds.map((hold) => ({ ...hold, from: Math.round(hold.from * scale + shift), to: Math.round(hold.to * scale + shift) }));

/** What is said of left limbs or parts said of the right ones. */
function swapped<Value>(by: Readonly<Record<string, Value>>, change: (value: Value) => Value = asItIs): Record<string, Value> {
  return Object.fromEntries(Object.entries(by).map(([name, value]) => [swapSides(name), change(value)]));
}

/** Turns about left, up and front, seen in the mirror. */
const acrossX = ([x, y, z]: [number, number, number]): [number, number, number] => [x, -y, -z];
