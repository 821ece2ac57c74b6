import {
  againstSource,
  cadence,
  cleanAnchors,
  cleanFindings,
  cleanFloorRate,
  clipContacts,
  clipFigures,
  clipSlides,
  groundwork,
  isMirror,
  framesSince,
  gaitNumbers,
  handSlides,
  legChangeDeg,
  repeatLoop,
  reportOf,
  stepClips,
  stepOf,
  thinnedKeys,
  repeatWay,
  sidesOf,
  sourceFrames,
  speedChange,
  travelTraces,
  troublesOf,
  withContacts,
  worldMotion,
  type AgainstSource,
  type AnchorProposal,
  type CleanFinding,
  type Clip,
  type ClipFigures,
  type ClipRecipe,
  type GaitNumbers,
  type HandSlide,
  type Motion,
  type SpeedChange,
  type StepClips,
  type StepOfKind,
  type StepReport,
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
  /** Where the contacts' frames are in the cut: the frame of it that the clip begins with, and the cut's length; null where they are none of it. */
  readonly contactsIn: { readonly start: number; readonly cycle: number } | null;
  readonly gait: GaitNumbers | null;
  readonly traces: TravelTraces | null;
  /** What each step's card shows, by the step's id. */
  readonly steps: Readonly<Record<string, StepMeasured>>;
}

/** What is said beside a step. */
export interface StepMeasured {
  readonly report: StepReport | null;
  /** What a speed asks of strides and time, and what that does to the legs. */
  readonly speed?: SpeedChange & { readonly legDeg: number };
  /** What a cleaning finds, the worst first. */
  readonly findings?: readonly CleanFinding[];
  /** Of a cleaning: instants that may have been alike, and how fast the floor rises, metres a second. */
  readonly anchors?: readonly AnchorProposal[];
  readonly floorRate?: number;
  /** What hands rest on. */
  readonly hands?: HandsMeasured;
  /** What of it cannot be done, in sentences; the rest of it is. */
  readonly troubles?: readonly string[];
  /** For every frame of the clip the frame that came into the step; null where there is no single one. */
  readonly frames?: Float64Array | null;
  /** The keys that the clip is written with. */
  readonly keys?: ThinnedView;
  /** The clip as it comes into a change of time. */
  readonly untimed?: Untimed;
}

/** What is left of a clip's keys. */
export interface ThinnedView {
  readonly frames: number;
  /** How many tracks have a key at each frame, of how many. */
  readonly counts: Uint16Array;
  readonly tracks: number;
  /** Where a point within 10 cm of a joint is furthest off: millimetres, the joint and the frame. */
  readonly worstMm: number;
  readonly joint: string;
  readonly at: number;
}

/** The rests of the hands of a clip, and where their frames are in its cut. */
export interface HandsMeasured {
  readonly contacts: readonly HandContact[];
  readonly contactsIn: ClipMeasured['contactsIn'];
}

/** A rest of a hand, and how far it slides there before it is held and after, cm. */
export interface HandContact extends HandSlide {
  readonly heldCm: number;
}

/** A clip in its own time: its frames, less one, its landings, and its steps a minute. */
export interface Untimed {
  readonly frames: number;
  readonly landings: readonly Landing[];
  readonly cadence: number | null;
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

export function untimedOf(clip: Clip): Untimed {
  const contacts = clipContacts(clip);
  const landings = (['left', 'right'] as const).flatMap((side) => (contacts?.[side] ?? []).map(({ from }) => ({ side, at: from })));
  return {
    frames: clip.motion.frames - 1,
    landings: landings.filter(({ at }) => at > 0 || clip.loop).sort((a, b) => a.at - b.at),
    cadence: cadence(clip, contacts),
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

/** What is worked out for the steps that need it. */
interface Asked {
  readonly frames: () => Float64Array | null;
  readonly contactsIn: () => ClipMeasured['contactsIn'];
}

function measuredStep(clips: StepClips, asked: Asked): StepMeasured {
  const { step, before, after } = clips;
  const troubles = troublesOf(step, clips);
  return {
    report: reportOf(step, before, after),
    ...(troubles.length > 0 && { troubles }),
    ...(step.off ? {} : besideStep(clips, asked)),
  };
}

/** What only some kinds of step say. */
function besideStep({ step, before, after }: StepClips, { frames, contactsIn: within }: Asked): Omit<StepMeasured, 'report'> {
  switch (step.kind) {
    case 'clean':
      return { findings: cleanFindings(before, step), anchors: cleanAnchors(before), floorRate: cleanFloorRate(before) };
    case 'hand-lock':
      return { hands: { contacts: handContactsOf(step, before, after), contactsIn: within() } };
    case 'corrections':
      return { frames: frames() };
    case 'thin':
      return { keys: thinnedView(after) };
    case 'retime':
      return { untimed: untimedOf(before) };
    case 'speed': {
      const change = speedChange(before, step);
      return change ? { speed: { ...change, legDeg: legChangeDeg(before, after) } } : {};
    }
    default:
      return {};
  }
}

function handContactsOf(step: StepOfKind<'hand-lock'>, before: Clip, after: Clip): HandContact[] {
  const held = handSlides(after, step, before);
  return handSlides(before, step).map((own, i) => ({ ...own, heldCm: held[i]?.slideCm ?? own.slideCm }));
}

function thinnedView(clip: Clip): ThinnedView | undefined {
  const thinned = thinnedKeys(withContacts(clip));
  if (!thinned) return undefined;
  const { keys, worst } = thinned;
  const counts = new Uint16Array(clip.motion.frames);
  for (const frames of keys.values()) for (const f of frames) counts[f]++;
  return {
    ...{ frames: clip.motion.frames, counts, tracks: keys.size, worstMm: worst.metres * 1000, at: worst.frame },
    joint: clip.motion.skeleton.joints[worst.joint].name,
  };
}

/** What leaves the worker is a copy: the worker keeps its own. */
export function copyForWire(motion: Motion): WireMotion {
  return { ...motion, rotations: motion.rotations.slice(), rootPositions: motion.rootPositions.slice() };
}
