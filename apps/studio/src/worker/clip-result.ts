import {
  againstSource,
  clipFigures,
  clipSlides,
  groundwork,
  isMirror,
  framesSince,
  gaitNumbers,
  repeatLoop,
  stepClips,
  stepOf,
  repeatWay,
  sidesOf,
  sourceFrames,
  travelTraces,
  worldMotion,
  type AgainstSource,
  type Clip,
  type ClipFigures,
  type ClipRecipe,
  type GaitNumbers,
  type Motion,
  type TravelTraces,
} from '@lantern/motion';
import type { Held } from './held';
import { markersOf, type Markers } from './markers';
import { measuredStep, type Asked, type ContactsIn, type StepMeasured } from './step-measured';
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
  /** Where the contacts' frames are in the cut: the frame of it that the clip begins with, and the cut's length; null where they are none of it. */
  readonly contactsIn: ContactsIn | null;
  readonly gait: GaitNumbers | null;
  readonly traces: TravelTraces | null;
  /** What each step's card shows, by the step's id. */
  readonly steps: Readonly<Record<string, StepMeasured>>;
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

/** A clip as it plays: a loop several times on end, in place or on its way. */
export function playedOn(clip: Clip, { repeats, inPlace }: View): Motion {
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

/** Slides in the contacts as the foot lock knows them, before time is changed or the clip is walked on. */
function slidesOf(run: Held['run'], recipe: ClipRecipe): Pick<ClipMeasured, 'contacts' | 'contactsIn'> {
  const lock = recipe.steps.findLastIndex(({ kind, off }) => kind === 'foot-lock' && !off);
  const held = lock < 0 ? recipe : { ...recipe, steps: recipe.steps.slice(0, lock + 1) };
  const clip = run(held);
  const after = clipSlides(clip);
  const free = lock < 0 ? after : clipSlides(run({ ...recipe, steps: recipe.steps.slice(0, lock) }), clip.contacts);
  const contacts = after.map(({ side, from, to, excursionCm }, i) => ({
    side,
    from,
    to,
    slideCm: free[i]?.excursionCm ?? excursionCm,
    heldCm: lock < 0 ? null : excursionCm,
  }));
  return { contacts, contactsIn: contactsIn(run, held) };
}

/** Where a clip whose frames are its cut's, one after the other, begins in it; null for a mirror image, and where time has been changed. */
function contactsIn(run: Held['run'], recipe: ClipRecipe): ClipMeasured['contactsIn'] {
  const source = sourceFrames(run, recipe);
  const cycle = recipe.to - recipe.from;
  if (!source || source.length !== cycle + 1 || recipe.steps.some(isMirror)) return null;
  const [start] = source;
  return source.every((at, f) => at === (start === 0 ? f : (f + start) % cycle)) ? { start, cycle } : null;
}

/** A clip as it is shown. */
export function clipResult({ run, motion: whole, ground: found }: Held, recipe: ClipRecipe, view: View): ClipResult {
  const clip = run(recipe);
  const motion = playedOn(clip, view);
  // A clip that is fitted to somebody has that one's joints.
  const body = motion.skeleton === whole.skeleton ? found?.body : groundwork(clip.motion)?.body;
  const isAtOrigin = stepOf(recipe.steps, 'travel')?.start === 'origin';
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
  return {
    figures,
    against: againstSource(run, recipe),
    // On the spot the feet leave no prints.
    markers: played && { ...markersOf(played), ...(view.inPlace ? { footprints: [] } : {}) },
    ...slidesOf(run, recipe),
    gait: figures && gaitNumbers(clip, figures.speedMps),
    traces: travelTraces(clip),
    steps: Object.fromEntries(
      stepClips(run, recipe).map((clips, index) => {
        const asked: Asked = {
          frames: () => framesSince(run, recipe, index),
          contactsIn: () => contactsIn(run, { ...recipe, steps: recipe.steps.slice(0, index + 1) }),
        };
        return [clips.step.id, measuredStep(clips, asked)];
      }),
    ),
  };
}

/** What leaves the worker is a copy: the worker keeps its own. */
export function copyForWire(motion: Motion): WireMotion {
  return { ...motion, rotations: motion.rotations.slice(), rootPositions: motion.rootPositions.slice() };
}
