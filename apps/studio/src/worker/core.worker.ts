import {
  align,
  compareMotions,
  bodyOf,
  jointWay,
  moveFrames,
  nearestPair,
  overviewOf,
  partnersOf,
  pickFrames,
  proposals,
  recurrence,
  seam,
  seamPoses,
  segments,
  type BodyMesh,
  type Comparison,
  type Groundwork,
  type LoopSearch,
  type Motion,
  type Overview,
  type Proposal,
  type Seam,
  type SeamPoses,
  type Segment,
  type Standing,
} from '@lantern/motion';
import { expose, transfer } from 'comlink';
import { openCastOf } from './cast';
import { copyForWire } from './clip-result';
import { figureOf, figureView } from './figures';
import { fitApi, orProblem } from './fit-api';
import { recipeApi } from './recipe-api';
import { joinApi } from './joining';
import { driveApi } from './drive-api';
import { setApi } from './set-api';
import { featuresOf, loopsOf, takeOf } from './held';
import { markersOf, type Markers } from './markers';
import { nameSource, openSource, type MotionSource } from './open-source';
import { redeliver, type MadeFrom, type Redelivery } from './redelivery';
import type { WireMotion } from './wire';

/** A take as the places show it: in metres, with what is drawn along its time axis. */
export interface OpenTake extends Overview {
  readonly id: string;
  readonly motion: WireMotion;
  readonly mesh: BodyMesh;
  readonly markers: Markers | null;
}

/** What is done in a take, and the clips that could be cut from it. */
export interface Reading {
  readonly segments: readonly Segment[];
  readonly proposals: readonly Proposal[];
}

/** Loop candidates that leave the worker; what a take offers is chosen from all. */
const MOST_SHOWN = 40;

export type { CharacterView } from './fit-api';
export type { Arc, Judged } from './judging';
export type { Bend, MirroredPair } from './recipe-api';
export type { FittedView, FitView, MappedSide } from './fitting';
export type { ClipMeasured, ClipResult, ContactSlide, View } from './clip-result';
export type { FitsAsked, JoinAsked, JoinView, MeetView, PieceAsked, PieceRoom } from './joining';
export type { PlayAsked, PlayView } from './drive-api';
export type { SetClipAsked } from './made-clips';
export type { FieldView, SetAsked, SetMeasured } from './set-api';
export type { HandContact, Landing, StepMeasured, ThinnedView, Untimed } from './step-measured';

const api = {
  /** Says what a take, or a join, is, for what follows, which calls it by its key: it is loaded when it is wanted. */
  named: nameSource,

  /** The same, loaded at once. */
  open: openSource,

  async openTake(source: MotionSource): Promise<OpenTake> {
    await openSource(source);
    const { motion, ground: found } = await takeOf(source.key);
    return describe(source.key, motion, found);
  },

  /** What somebody with this skeleton looks like. */
  figure: figureView,

  /** The way of a joint: x, y, z in metres and its turn from rest in degrees, four numbers a frame. */
  async way(id: string, joint: string): Promise<Float32Array> {
    const { motion } = await takeOf(id);
    const way = jointWay(
      motion,
      motion.skeleton.joints.findIndex(({ name }) => name === joint),
    );
    return transfer(way, [way.buffer]);
  },

  ...fitApi,
  ...recipeApi,
  ...joinApi,
  ...setApi,
  ...driveApi,

  /** How far the joints of two takes are apart at every instant they share, the second in step with the first; worst joint first. */
  async compare(id: string, other: string, standing: Standing): Promise<Comparison> {
    return compareMotions((await takeOf(id)).motion, (await takeOf(other)).motion, standing);
  },

  /** Loop candidates of an open take, best first; searched once. */
  async loops(id: string): Promise<LoopSearch> {
    const take = await takeOf(id);
    const all = loopsOf(take);
    return { ...all, candidates: all.candidates.slice(0, MOST_SHOWN) };
  },

  /** How frame `to` meets frame `from`; quick enough for every movement of the pointer. */
  async seam(id: string, from: number, to: number): Promise<Seam | null> {
    const { ground: found } = await takeOf(id);
    return found ? seam(found, from, to) : null;
  },

  /** What is done in an open take, and which clips it offers. */
  async reading(id: string): Promise<Reading> {
    const take = await takeOf(id);
    if (!take.ground) return { segments: [], proposals: [] };
    const read = segments(take.ground);
    return { segments: read, proposals: proposals(take.ground, read, loopsOf(take).candidates) };
  },

  /** The end poses of a cut over each other. */
  async seamPoses(id: string, from: number, to: number): Promise<SeamPoses | null> {
    const { ground: found } = await takeOf(id);
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

  /** Two frames: the first pose of a cut and the last laid over it. */
  async endPoses(id: string, from: number, to: number): Promise<WireMotion> {
    const { motion, ground: found } = await takeOf(id);
    const both = pickFrames(motion, [from, to]);
    if (found) moveFrames(both, align(found.globals, from, to, found.weighted.joints, found.weighted.weights), 1, 2);
    return both;
  },

  /** Finds the place in another take of all that was made from one. */
  async redeliver(id: string, by: string, made: MadeFrom, fps: number): Promise<Redelivery | { problem: string }> {
    const old = await takeOf(id);
    for (const { recipe } of made.clips) await openCastOf(old.project, recipe.steps);
    return orProblem(async () => redeliver(old, await takeOf(by), made, fps));
  },
};

export type CoreWorker = typeof api;
expose(api);

async function describe(id: string, motion: Motion, found: Groundwork | null): Promise<OpenTake> {
  return {
    id,
    motion: copyForWire(motion),
    mesh: await figureOf(motion.skeleton, found?.body ?? bodyOf(motion)),
    markers: found ? markersOf(found) : null,
    ...overviewOf(motion, found),
  };
}
