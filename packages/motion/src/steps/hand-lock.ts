import { z } from 'zod';
import { correct } from '../edit/correct';
import { findHandHolds, placed, type HandHold, type HandHolds } from '../edit/hand-holds';
import { layerTroubles } from '../edit/layer-troubles';
import { layerSchema, touchTargetSchema, type Layer, type TouchTarget } from '../edit/layers';
import { movedTarget, propOnOtherSide, targetOnOtherSide } from '../edit/touch-target';
import { pointAt, touchingLimb } from '../edit/touch-limb';
import type { Vec3 } from '../math/quat';
import { minus, norm, plus, times, turned, vecAt } from '../math/vec';
import { groundwork, type Groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import { worldMotion, type Clip } from '../model/clip';
import { mapFrame, type FrameMap } from '../model/frame-map';
import { movedProp, propSchema } from '../model/prop';
import { nearestOnProp } from '../measure/prop-surface';
import { playedForLayers } from './corrections';
import { defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const SIDES = ['left', 'right'] as const;

const hold = z
  .object({
    from: z.int().min(0).max(1e7),
    /** The first frame after it. */
    to: z.int().min(1).max(2e7),
    /** What the hand rests on; left out, a part of its own body if it is beside one, else its mean place in the world. */
    on: touchTargetSchema.optional(),
    /** It goes along what it rests on. */
    slide: z.boolean().optional(),
  })
  .refine(({ from, to }) => to > from, 'A contact ends after it begins.');

const schema = stepObject('hand-lock', {
  /** How long a hand takes to where it is held, and from there back, seconds. */
  blend: z.number().min(0.02).max(2).default(0.2),
  /** How much of what an arm lacks the trunk makes up. */
  give: z.number().min(0).max(1).default(0),
  /** What of the take's props hands may rest on, as they stand there. */
  props: z.array(propSchema).max(100).default([]),
  /** When the hands rest, and on what, as set by hand; frames of the clip. Else it is found. */
  contacts: z.object({ left: z.array(hold).max(500), right: z.array(hold).max(500) }).optional(),
});
export type HandLockParams = z.infer<typeof schema>;
type SetHold = z.infer<typeof hold>;

/** Holds hands that rest: on a part of the body, on a prop, or where they are in the world, each from frame to frame, led there and back. */
export const handLock = defineStep(schema, {
  title: 'Hand lock',
  about: 'Hands that rest stay where they rest: on the body, on a prop, in the world.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({}),
  mapTime: (step, time) => {
    const { floor } = time;
    return {
      ...step,
      ...(floor && { props: step.props.map((prop) => movedProp(prop, floor)) }),
      ...(step.contacts && { contacts: eachHold(step.contacts, (own) => holdAt(own, time)) }),
    };
  },
  otherSide: (step) => {
    const props = step.props.map(propOnOtherSide);
    if (!step.contacts) return { ...step, props };
    const { left, right } = eachHold(step.contacts, (own) => ({ ...own, ...(own.on && { on: targetOnOtherSide(own.on) }) }));
    return { ...step, props, contacts: { left: right, right: left } };
  },
  report(before, after, step) {
    const [was, is] = [handSlides(before, step), handSlides(after, step, before)].map(worstOf);
    return { label: 'hands slide', unit: 'cm', digits: 2, before: was?.slideCm ?? null, after: is?.slideCm ?? null, at: is?.from };
  },
  troubles: (before, step) => {
    const layer = layerOf(before, step);
    return layer ? layerTroubles([layer], before.motion).map((text) => text.replace(`Layer “${layer.name}”, `, 'The ')) : [];
  },
  apply(clip, step) {
    const layer = layerOf(clip, step);
    if (!layer) return clip;
    const shown = playedForLayers(clip);
    return putBack(clip, correct(shown, [layer]), shown.start);
  },
});

const eachHold = (contacts: Readonly<Record<'left' | 'right', readonly SetHold[]>>, change: (own: SetHold) => SetHold) => ({
  left: contacts.left.map(change),
  right: contacts.right.map(change),
});

function holdAt({ from, to, on, ...rest }: SetHold, time: FrameMap): SetHold {
  const start = mapFrame(time, from);
  return {
    ...rest,
    from: start,
    to: Math.max(start + 1, mapFrame(time, to)),
    ...(on && { on: time.floor ? movedTarget(on, time.floor) : on }),
  };
}

const LAYER = 'hands held';

/** The holds as touches of a layer; null where there is nothing to hold. */
function layerOf(clip: Clip, step: HandLockParams): Layer | null {
  const holds = handHolds(clip, step);
  const fade = Math.max(1, Math.round(step.blend * clip.motion.fps));
  const touches = SIDES.flatMap((side) =>
    (holds?.[side] ?? []).map(({ from, to, on, slide }) => ({
      limb: `${side} hand` as const,
      ...{ from, to: to - 1, fadeIn: fade, fadeOut: fade, target: on, give: step.give, slide: slide ?? false },
    })),
  );
  return touches.length > 0 ? layerSchema.parse({ name: LAYER, touches }) : null;
}

type Held = Pick<HandLockParams, 'contacts' | 'props'>;

/**
 * What the hands of a clip rest on, as set by hand or as found; of a loop the rests that begin in its cycle. Null for what is no person.
 *
 * @example
 * handHolds(cutClip(motion, best.from, best.to), stepSchema.parse({ kind: 'hand-lock' })).left.length; // 0
 */
export function handHolds(clip: Clip, { contacts, props }: Held): HandHolds | null {
  const { motion, start } = played(clip);
  const found = groundwork(motion);
  if (!found) return null;
  const own = (held: HandHold): HandHold => ({ ...held, from: held.from - start, to: held.to - start });
  if (contacts) {
    const set = (side: 'left' | 'right') =>
      contacts[side].map(({ from, to, on, slide }): HandHold => ({
        ...(on ? { from, to, on } : own(placed(found, side, { from: from + start, to: to + start }))),
        ...(slide && { slide }),
      }));
    return { left: set('left'), right: set('right') };
  }
  const all = findHandHolds(found, props);
  const last = clip.motion.frames - 1;
  const mine = (side: 'left' | 'right') => all[side].map(own).filter(({ from }) => start === 0 || (from >= 0 && from < last));
  return { left: mine('left'), right: mine('right') };
}

/** A rest of a hand and how far the hand goes from its mean place on what it rests on, cm. */
export interface HandSlide extends HandHold {
  readonly side: 'left' | 'right';
  readonly slideCm: number;
}

/**
 * How far the hands of a clip slide where they rest.
 *
 * @param from the clip in which the rests are found, if not this one
 *
 * @example
 * handSlides(cutClip(motion, best.from, best.to), stepSchema.parse({ kind: 'hand-lock' })); // []
 */
export function handSlides(clip: Clip, step: Held, from: Clip = clip): HandSlide[] {
  const found = groundwork(worldMotion(clip));
  const holds = handHolds(from, step);
  if (!found || !holds) return [];
  return SIDES.flatMap((side) => holds[side].map((own) => ({ ...own, side, slideCm: 100 * slideOf(found, side, own) })));
}

function slideOf(
  { motion, globals, body, contacts: { floorM } }: Groundwork,
  side: 'left' | 'right',
  { from, to, on, slide }: HandHold,
): number {
  const point = touchingLimb(motion.skeleton, body, `${side} hand`, null)?.point;
  const joint = on.to === 'joint' ? motion.skeleton.joints.findIndex(({ name }) => name === on.joint) : -1;
  if (!point || (on.to === 'joint' && joint < 0)) return 0;
  const places: Vec3[] = [];
  for (let f = Math.max(0, from); f < Math.min(globals.frames, to); f++) {
    places.push(inSpaceOf(globals, joint, on, slide ?? false, floorM, pointAt(globals, point, f), f));
  }
  if (places.length === 0) return 0;
  const mean = times(
    places.reduce<Vec3>((sum, place) => plus(sum, place), [0, 0, 0]),
    1 / places.length,
  );
  return Math.max(...places.map((place) => norm(minus(place, mean))));
}

const worstOf = (all: readonly HandSlide[]): HandSlide | undefined => [...all].sort((a, b) => b.slideCm - a.slideCm)[0];

/** A hand as what it rests on sees it: as its joint does, or, where it goes along a prop, from the nearest place of that; else in the world. */
function inSpaceOf(
  globals: Groundwork['globals'],
  joint: number,
  on: TouchTarget,
  slides: boolean,
  floorM: number,
  hand: Vec3,
  f: number,
): Vec3 {
  if (joint >= 0) {
    const at = f * globals.joints + joint;
    const [x, y, z, w] = globals.rotations.subarray(at * 4, at * 4 + 4);
    return turned([-x, -y, -z, w], 0, minus(hand, vecAt(globals.positions, at)));
  }
  if (on.to !== 'prop' || !slides) return hand;
  const [x, y, z] = hand;
  return minus([x, y - floorM, z], nearestOnProp(on.prop, [x, y - floorM, z]).place);
}
