import {
  align,
  applyStep,
  bodyMesh,
  cadence,
  clipContacts,
  clipFigures,
  clipSlides,
  closings,
  compareMotions,
  createMotion,
  findBody,
  gait,
  gaitNumbers,
  jointWay,
  InputError,
  legChangeDeg,
  makeClips,
  moveFrames,
  nearestPair,
  overviewOf,
  partnersOf,
  pickFrames,
  proposals,
  recurrence,
  repeatLoop,
  repeatWay,
  seam,
  seamPoses,
  segments,
  shipClip,
  sidesOf,
  sourceFrames,
  speedChange,
  strideTraces,
  travelTraces,
  worldMotion,
  writeBvh,
  type BodyMesh,
  type Clip,
  type ClipFigures,
  type ClipRecipe,
  type Closing,
  type Comparison,
  type Gait,
  type GaitNumbers,
  type LoopSearch,
  type MadeFile,
  type Motion,
  type Overview,
  type Project,
  type Proposal,
  type Report,
  type Seam,
  type SeamPoses,
  type Segment,
  type Skeleton,
  type SpeedChange,
  type StrideTraces,
  type TravelTraces,
} from '@lantern/motion';
import { expose, transfer } from 'comlink';
import { featuresOf, loopsOf, openSource, takeOf, type Held, type TakeSource } from './held';
import { markersOf, type Markers } from './markers';
import { redeliver, type MadeFrom, type Redelivery } from './redelivery';
import { stripOf, type Strip } from './strip';
import type { WireMotion } from './wire';

/** A take as the places show it: in metres, with what is drawn along its time axis. */
export interface OpenTake extends Overview {
  readonly id: string;
  readonly motion: WireMotion;
  readonly mesh: BodyMesh;
  readonly markers: Markers | null;
}

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

/** What is done in a take, and the clips that could be cut from it. */
export interface Reading {
  readonly segments: readonly Segment[];
  readonly proposals: readonly Proposal[];
}

/** Loop candidates that leave the worker; what a take offers is chosen from all. */
const MOST_SHOWN = 40;

const api = {
  /** Opens a take for what follows, which calls it by its key. */
  async open(source: TakeSource): Promise<void> {
    await openSource(source);
  },

  async openTake(source: TakeSource): Promise<OpenTake> {
    await api.open(source);
    const { motion, gait: found } = await takeOf(source.key);
    return describe(source.key, motion, found);
  },

  /** What somebody with this skeleton looks like. */
  figure(skeleton: Skeleton): { mesh: BodyMesh; markers: Markers | null } {
    const motion = createMotion(skeleton, 60, 1);
    motion.rootPositions.set(skeleton.joints[0].offset);
    skeleton.joints.forEach((joint, j) => motion.rotations.set(joint.restRotation, j * 4));
    const body = findBody(motion);
    return { mesh: bodyMesh(skeleton, body), markers: body && { ...sidesOf(skeleton, body), footprints: [] } };
  },

  /** The way of a joint: x, y, z in metres and its turn from rest in degrees, four numbers a frame. */
  async way(id: string, joint: string): Promise<Float32Array> {
    const { motion } = await takeOf(id);
    const way = jointWay(
      motion,
      motion.skeleton.joints.findIndex(({ name }) => name === joint),
    );
    return transfer(way, [way.buffer]);
  },

  /** How far the joints of two takes are apart at every instant they share, the second in step with the first; worst joint first. */
  async compare(id: string, other: string): Promise<Comparison> {
    return compareMotions((await takeOf(id)).motion, (await takeOf(other)).motion);
  },

  /** Loop candidates of an open take, best first; searched once. */
  async loops(id: string): Promise<LoopSearch> {
    const take = await takeOf(id);
    const all = loopsOf(take);
    return { ...all, candidates: all.candidates.slice(0, MOST_SHOWN) };
  },

  /** How frame `to` meets frame `from`; quick enough for every movement of the pointer. */
  async seam(id: string, from: number, to: number): Promise<Seam | null> {
    const { gait: found } = await takeOf(id);
    return found ? seam(found, from, to) : null;
  },

  /** What is done in an open take, and which clips it offers. */
  async reading(id: string): Promise<Reading> {
    const take = await takeOf(id);
    if (!take.gait) return { segments: [], proposals: [] };
    const read = segments(take.gait);
    return { segments: read, proposals: proposals(take.gait, read, loopsOf(take).candidates) };
  },

  /** The end poses of a cut over each other. */
  async seamPoses(id: string, from: number, to: number): Promise<SeamPoses | null> {
    const { gait: found } = await takeOf(id);
    return found && seamPoses(found, from, to);
  },

  /** The take against itself within a window, and the best pair of frames near one. */
  async recurrence(id: string, window: readonly [number, number], size: number): Promise<Uint8ClampedArray> {
    const seen = featuresOf(await takeOf(id));
    return seen ? recurrence(seen, window, window, size) : new Uint8ClampedArray(size * size);
  },
  async snap(id: string, from: number, to: number, reach: number, least: number): Promise<{ from: number; to: number }> {
    const seen = featuresOf(await takeOf(id));
    return seen ? nearestPair(seen, from, to, reach, least) : { from, to };
  },

  /** Where a post would make the best seams with the other one: frames for the in post and for the out post. */
  async partners(id: string, from: number, to: number): Promise<{ ins: number[]; outs: number[] }> {
    const take = await takeOf(id);
    const seen = featuresOf(take);
    if (!seen) return { ins: [], outs: [] };
    const [least, most] = [0.3 * take.motion.fps, 6 * take.motion.fps].map(Math.round);
    return { ins: partnersOf(seen, to, to - most, to - least), outs: partnersOf(seen, from, from + least, from + most) };
  },

  /** The ways of closing a clip's loop beside each other. */
  async closings(id: string, recipe: ClipRecipe): Promise<Closing[]> {
    return closings((await takeOf(id)).run, recipe);
  },

  /** A joint over the strides that a clip's typical cycle is made of; null when there are none. */
  async strides(id: string, recipe: ClipRecipe, joint: string): Promise<StrideTraces | null> {
    const { run } = await takeOf(id);
    const at = recipe.steps.findIndex(({ kind }) => kind === 'typical-cycle');
    const step = recipe.steps[at];
    const found = step?.kind === 'typical-cycle' ? gait(run({ ...recipe, steps: recipe.steps.slice(0, at) }).motion) : null;
    try {
      return found && step?.kind === 'typical-cycle' ? strideTraces(found, joint, step.exclude) : null;
    } catch (error) {
      // Fewer than two strides: the recipe itself says so.
      if (error instanceof InputError) return null;
      throw error;
    }
  },

  /** Two frames: the first pose of a cut and the last laid over it. */
  async endPoses(id: string, from: number, to: number): Promise<WireMotion> {
    const { motion, gait: found } = await takeOf(id);
    const both = pickFrames(motion, [from, to]);
    if (found) moveFrames(both, align(found.globals, from, to, found.weighted.joints, found.weighted.weights), 1, 2);
    return both;
  },

  /** Runs a clip's recipe, to be shown. */
  async clip(id: string, recipe: ClipRecipe, view: View): Promise<ClipResult> {
    const { run, gait: found } = await takeOf(id);
    const clip = run(recipe);
    const motion = playedOn(clip, view);
    return {
      motion: copyForWire(motion),
      markers: found && { ...sidesOf(motion.skeleton, found.body), footprints: [] },
      floor: clip.travel ? 0 : (found?.soles.floor ?? 0),
      cycle: clip.motion.frames - 1,
      loop: clip.loop,
      ...(view.inPlace ? { way: null, heading: null } : wayOnFloor(clip, view.repeats)),
      source: sourceFrames(run, recipe),
    };
  },

  /** Measures a clip and what is said beside its steps. */
  async measured(id: string, recipe: ClipRecipe, view: View): Promise<ClipMeasured> {
    const { run } = await takeOf(id);
    const clip = run(recipe);
    const played = gait(playedOn(clip, view));
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
      // On the spot the feet leave no prints.
      markers: played && { ...markersOf(played), ...(view.inPlace ? { footprints: [] } : {}) },
      contacts: slidesOf(run, recipe),
      gait: figures && gaitNumbers(clip, figures.speedMps),
      traces: travelTraces(clip),
      speed: change && unhurried && hurried && { ...change, legDeg: legChangeDeg(unhurried, hurried) },
      untimed: untimed && untimedOf(untimed),
    };
  },

  /** A clip as it is now, as a file of its own: BVH in metres, without its root. */
  async bake(id: string, recipe: ClipRecipe): Promise<string> {
    const { run } = await takeOf(id);
    return writeBvh(worldMotion(run(recipe)));
  },

  /** The landings of a clip and its length, for putting another in step with it. */
  async landings(id: string, recipe: ClipRecipe): Promise<{ frames: number; landings: readonly Landing[] }> {
    const { run } = await takeOf(id);
    return untimedOf(run(recipe));
  },

  /** A clip's figures at the rate it would ship at, and its poses at a glance. */
  async figures(id: string, recipe: ClipRecipe, fps: number): Promise<{ figures: ClipFigures | null; strip: Strip }> {
    const take = await takeOf(id);
    const { clip } = shipClip(take.run(recipe), fps);
    return { figures: clipFigures(clip), strip: stripOf(clip, take.gait && markersOf(take.gait)) };
  },

  /** Finds the place in another take of all that was made from one. */
  async redeliver(id: string, by: string, made: MadeFrom, fps: number): Promise<Redelivery | { problem: string }> {
    try {
      return redeliver(await takeOf(id), await takeOf(by), made, fps);
    } catch (error) {
      if (error instanceof InputError) return { problem: error.message };
      throw error;
    }
  },

  /** Makes the files of a shipment from open takes; its clips name them by their keys. */
  async ship(
    project: Pick<Project, 'fps' | 'clips' | 'ship'>,
    progress: (done: number, of: number, name: string) => void,
  ): Promise<{ files: MadeFile[]; report: Report } | { problem: string }> {
    try {
      const motions = new Map<string, Motion>();
      for (const { take } of project.clips) if (!motions.has(take)) motions.set(take, (await takeOf(take)).motion);
      const motionOf = (key: string) => {
        const motion = motions.get(key);
        return motion && { motion, warnings: [] };
      };
      const made = await makeClips(project, motionOf, progress);
      return transfer(
        made,
        made.files.map((file) => file.bytes.buffer as ArrayBuffer),
      );
    } catch (error) {
      // Errors lose their class between threads; the sentence is what matters.
      if (error instanceof InputError) return { problem: error.message };
      throw error;
    }
  },
};

export type CoreWorker = typeof api;
expose(api);

/** What leaves the worker is a copy: the worker keeps its own. */
function copyForWire(motion: Motion): WireMotion {
  return { ...motion, rotations: motion.rotations.slice(), rootPositions: motion.rootPositions.slice() };
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

function untimedOf(clip: Clip): NonNullable<ClipMeasured['untimed']> {
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

function describe(id: string, motion: Motion, found: Gait | null): OpenTake {
  return {
    id,
    motion: copyForWire(motion),
    mesh: bodyMesh(motion.skeleton, found?.body ?? findBody(motion)),
    markers: found ? markersOf(found) : null,
    ...overviewOf(motion, found),
  };
}
