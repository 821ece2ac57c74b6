import {
  againstSource,
  applyStep,
  cadence,
  clipContacts,
  clipFigures,
  clipSlides,
  groundwork,
  gaitNumbers,
  legChangeDeg,
  repeatLoop,
  repeatWay,
  sidesOf,
  sourceFrames,
  speedChange,
  travelTraces,
  worldMotion,
  type AgainstSource,
  type Clip,
  type ClipFigures,
  type ClipRecipe,
  type GaitNumbers,
  type Motion,
  type SpeedChange,
  type TravelTraces,
} from '@lantern/motion';
import type { Held } from './held';
import { markersOf, type Markers } from './markers';
import type { WireMotion } from './wire';

export interface ClipResult {
  /** The clip as it plays, in the world: a loop `repeats` times on end; `inPlace` leaves the travel out. */
  readonly motion: WireMotion;
  readonly markers: Markers | null;
  readonly floor: number;
  readonly cycle: number;
  readonly loop: boolean;
  /** The root's way on the floor as it plays, x and z a frame; null without travel. */
  readonly way: Float32Array | null;
  /** The root's heading as it plays, radians; null without travel, or in place. */
  readonly heading: Float32Array | null;
  /** For each frame of the clip that of its cut; null where there is no single one. */
  readonly source: Float64Array | null;
}

/** What is measured of a clip, after it is shown. */
export interface ClipMeasured {
  readonly figures: ClipFigures | null;
  /** How like it is to what was captured. */
  readonly against: AgainstSource | null;
  readonly markers: Markers | null;
  /** Every contact of the clip (of a loop, those that begin in its cycle), and how far the foot slides in it without and with foot lock. */
  readonly contacts: readonly ContactSlide[];
  readonly gait: GaitNumbers | null;
  readonly traces: TravelTraces | null;
  /** What the speed step asks of strides and time, and what that does to the legs. */
  readonly speed: (SpeedChange & { readonly legDeg: number }) | null;
  /** The clip as it comes into the retime step: its frames, less one, its landings, and its steps a minute. */
  readonly untimed: { readonly frames: number; readonly landings: readonly Landing[]; readonly cadence: number | null } | null;
}

/** A foot's first contact, frames. */
export interface Landing {
  readonly side: 'left' | 'right';
  readonly at: number;
}

/** A contact, frames of the clip, and the slide in it, cm; `heldCm` is null without foot lock. */
export interface ContactSlide {
  readonly side: 'left' | 'right';
  readonly from: number;
  readonly to: number;
  readonly slideCm: number;
  readonly heldCm: number | null;
}

/** How a clip is looked at. */
export interface View {
  readonly repeats: number;
  readonly inPlace: boolean;
}

function playedOn(clip: Clip, { repeats, inPlace }: View): Motion {
  const seen = inPlace ? { ...clip, travel: null } : clip;
  return clip.loop && repeats > 1 ? repeatLoop(seen, repeats) : worldMotion(seen);
}

function wayOnFloor({ travel, loop }: Clip, repeats: number): Pick<ClipResult, 'way' | 'heading'> {
  if (!travel) return { way: null, heading: null };
  const way = loop && repeats > 1 ? repeatWay(travel, repeats) : travel;
  return {
    way: Float32Array.from({ length: way.x.length * 2 }, (_, i) => (i % 2 ? way.z : way.x)[i >> 1]),
    heading: Float32Array.from(way.heading),
  };
}

export function untimedOf(clip: Clip): NonNullable<ClipMeasured['untimed']> {
  const contacts = clipContacts(clip);
  const landings = (['left', 'right'] as const).flatMap((side) => (contacts?.[side] ?? []).map(({ from }) => ({ side, at: from })));
  return {
    frames: clip.motion.frames - 1,
    landings: landings.filter(({ at }) => at > 0 || clip.loop).sort((a, b) => a.at - b.at),
    cadence: cadence(clip, contacts),
  };
}

/** Slides in the contacts as the foot lock knows them, before time is changed. */
function slidesOf(run: Held['run'], whole: ClipRecipe): ContactSlide[] {
  const recipe = { ...whole, steps: whole.steps.filter(({ kind }) => kind !== 'retime') };
  const clip = run(recipe);
  const after = clipSlides(clip);
  const isLocked = recipe.steps.some(({ kind, off }) => kind === 'foot-lock' && !off);
  const free = isLocked
    ? clipSlides(run({ ...recipe, steps: recipe.steps.filter(({ kind }) => kind !== 'foot-lock') }), clip.contacts)
    : after;
  return after.map(({ side, from, to, excursionCm }, i) => ({
    side,
    from,
    to,
    slideCm: free[i]?.excursionCm ?? excursionCm,
    heldCm: isLocked ? excursionCm : null,
  }));
}

/** A clip as it is shown. */
export function clipResult({ run, motion: whole, ground: found }: Held, recipe: ClipRecipe, view: View): ClipResult {
  const clip = run(recipe);
  const motion = playedOn(clip, view);
  // A clip that is fitted to somebody has that one's joints.
  const body = motion.skeleton === whole.skeleton ? found?.body : groundwork(clip.motion)?.body;
  const isAtOrigin = recipe.steps.some((step) => step.kind === 'travel' && !step.off && step.start === 'origin');
  return {
    motion: copyForWire(motion),
    markers: body ? { ...sidesOf(motion.skeleton, body), footprints: [] } : null,
    // A root at the origin stands on the floor; else it is where the feet are.
    floor: isAtOrigin ? 0 : (groundwork(motion)?.soles.floor ?? 0),
    cycle: clip.motion.frames - 1,
    loop: clip.loop,
    ...(view.inPlace ? { way: null, heading: null } : wayOnFloor(clip, view.repeats)),
    source: sourceFrames(run, recipe),
  };
}

/** A clip as it is measured. */
export function clipMeasured({ run }: Held, recipe: ClipRecipe, view: View): ClipMeasured {
  const clip = run(recipe);
  const played = groundwork(playedOn(clip, view));
  const figures = clipFigures(clip);
  const before = (kind: string) => {
    const at = recipe.steps.findIndex((step) => step.kind === kind && !step.off);
    return at < 0 ? null : run({ ...recipe, steps: recipe.steps.slice(0, at) });
  };
  const unhurried = before('speed');
  const step = recipe.steps.find(({ kind, off }) => kind === 'speed' && !off);
  const change = unhurried && step?.kind === 'speed' ? speedChange(unhurried, step) : null;
  const hurried = unhurried && step ? applyStep(unhurried, step) : null;
  const untimed = before('retime');
  return {
    figures,
    against: againstSource(run, recipe),
    // On the spot the feet leave no prints.
    markers: played && { ...markersOf(played), ...(view.inPlace ? { footprints: [] } : {}) },
    contacts: slidesOf(run, recipe),
    gait: figures && gaitNumbers(clip, figures.speedMps),
    traces: travelTraces(clip),
    speed: change && unhurried && hurried && { ...change, legDeg: legChangeDeg(unhurried, hurried) },
    untimed: untimed && untimedOf(untimed),
  };
}

/** What leaves the worker is a copy: the worker keeps its own. */
export function copyForWire(motion: Motion): WireMotion {
  return { ...motion, rotations: motion.rotations.slice(), rootPositions: motion.rootPositions.slice() };
}
