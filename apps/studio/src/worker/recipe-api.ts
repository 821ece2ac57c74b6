import {
  closings,
  createStep,
  jointBend,
  limbPlace,
  mergeLayers,
  isMirror,
  mirrorMap,
  stepOf,
  withStep,
  bodyOf,
  groundwork,
  InputError,
  strideTraces,
  worldMotion,
  writeBvh,
  type ClipRecipe,
  type Closing,
  type RecipeStep,
  type StepKind,
  type StepOfKind,
  type TouchLimb,
  type StrideTraces,
} from '@lantern/motion';
import { clipMeasured, clipResult, playedOn, type ClipMeasured, type ClipResult, type View } from './clip-result';
import { withCast } from './fit-api';
import { judge, type Judged, type JudgedWish } from './judging';
import { untimedOf, type Landing } from './step-measured';

/** Two joints that take each other's movement in the mirror; both are the same where a joint is mirrored where it is. */
export interface MirroredPair {
  readonly joint: string;
  readonly partner: string;
  /** Of the two entries of a pair the first. */
  readonly isFirst: boolean;
  readonly confidence: number;
  readonly reason: string;
}

/** A joint's turn from rest before and after a step, degrees about the left, up and front of the rest pose, three numbers a frame. */
export interface Bend {
  readonly before: Float32Array;
  readonly after: Float32Array;
}

/** What the worker does with clips and their recipes. */
export const recipeApi = {
  /** The ways of closing a clip's loop beside each other. */
  async closings(id: string, recipe: ClipRecipe): Promise<Closing[]> {
    return closings((await withCast(id, recipe.steps)).run, recipe);
  },

  /** A joint over the strides that a clip's typical cycle is made of; null when there are none. */
  async strides(id: string, recipe: ClipRecipe, joint: string): Promise<StrideTraces | null> {
    const { run } = await withCast(id, recipe.steps);
    const step = stepOf(recipe.steps, 'typical-cycle');
    const found = step && groundwork(run({ ...recipe, steps: recipe.steps.slice(0, recipe.steps.indexOf(step)) }).motion);
    try {
      return found ? strideTraces(found, joint, step.exclude) : null;
    } catch (error) {
      // Fewer than two strides: the recipe itself says so.
      if (error instanceof InputError) return null;
      throw error;
    }
  },

  /** Which joints change sides where a clip is mirrored, with how certain that is. */
  async mirrored(id: string, recipe: ClipRecipe): Promise<MirroredPair[]> {
    const { run } = await withCast(id, recipe.steps);
    const at = recipe.steps.findIndex(isMirror);
    const { motion } = run({ ...recipe, steps: recipe.steps.slice(0, at) });
    const { joints } = motion.skeleton;
    return mirrorMap(motion.skeleton, bodyOf(motion)).pairs.map(({ joint, partner, confidence, reason }) => ({
      joint: joints[joint].name,
      partner: joints[partner].name,
      isFirst: joint < partner,
      confidence,
      reason,
    }));
  },

  /** A joint before a step of a clip's recipe and after it: how it is turned from rest, three numbers a frame, degrees. */
  async bend(id: string, recipe: ClipRecipe, stepId: string, joint: string): Promise<Bend | null> {
    const { run } = await withCast(id, recipe.steps);
    const at = recipe.steps.findIndex((step) => step.id === stepId);
    const [before, after] = [at, at + 1].map((count) => run({ ...recipe, steps: recipe.steps.slice(0, count) }).motion);
    const index = before.skeleton.joints.findIndex(({ name }) => name === joint);
    return at < 0 || index < 0 ? null : { before: jointBend(before, index), after: jointBend(after, index) };
  },

  /** Some layers of a corrections step made one, from the lowest to the highest of them. */
  async merged(id: string, recipe: ClipRecipe, stepId: string, from: number, to: number): Promise<StepOfKind<'corrections'> | null> {
    const { run } = await withCast(id, recipe.steps);
    const at = recipe.steps.findIndex((step) => step.id === stepId);
    const step = recipe.steps[at];
    if (step?.kind !== 'corrections') return null;
    return { ...mergeLayers(run({ ...recipe, steps: recipe.steps.slice(0, at) }), step, from, to), id: step.id };
  },

  /** Where a hand or foot is in the world, metres, at a frame of the clip as it comes into a step. */
  async limbPlace(
    id: string,
    recipe: ClipRecipe,
    stepId: string,
    limb: TouchLimb,
    frame: number,
  ): Promise<readonly [number, number, number] | null> {
    const { run } = await withCast(id, recipe.steps);
    const at = recipe.steps.findIndex((step) => step.id === stepId);
    const motion = worldMotion(run({ ...recipe, steps: recipe.steps.slice(0, Math.max(0, at)) }));
    return limbPlace(motion, limb, Math.min(motion.frames - 1, Math.max(0, frame)));
  },

  /** A new step for a clip, with what is good for it as it comes into that step. */
  async createdStep(id: string, recipe: ClipRecipe, kind: StepKind, characters: readonly string[]): Promise<RecipeStep> {
    const { run } = await withCast(id, recipe.steps);
    const bare = createStep(kind);
    const before = withStep(recipe.steps, bare).findIndex(({ id: its }) => !recipe.steps.some((step) => step.id === its));
    return createStep(kind, { clip: run({ ...recipe, steps: recipe.steps.slice(0, before) }), characters });
  },

  /** Runs a clip's recipe, to be shown. */
  async clip(id: string, recipe: ClipRecipe, view: View): Promise<ClipResult> {
    return clipResult(await withCast(id, recipe.steps), recipe, view);
  },

  /** Measures a clip and what is said beside its steps. */
  async measured(id: string, recipe: ClipRecipe, view: View): Promise<ClipMeasured> {
    return clipMeasured(await withCast(id, recipe.steps), recipe, view);
  },

  /** The arcs of some joints of a clip, and how the body stands over its feet. */
  async judged(id: string, recipe: ClipRecipe, wish: JudgedWish, view: View): Promise<Judged> {
    return judge(await withCast(id, recipe.steps), recipe, wish, playedOn, view);
  },

  /** A clip as it is now, as a file of its own: BVH in metres, without its root. */
  async bake(id: string, recipe: ClipRecipe): Promise<string> {
    const { run } = await withCast(id, recipe.steps);
    return writeBvh(worldMotion(run(recipe)));
  },

  /** The landings of a clip and its length, for putting another in step with it. */
  async landings(id: string, recipe: ClipRecipe): Promise<{ frames: number; landings: readonly Landing[] }> {
    const { run } = await withCast(id, recipe.steps);
    return untimedOf(run(recipe));
  },
};
