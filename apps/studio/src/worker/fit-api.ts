import { bodyOfParts, InputError, sidesOf, type BodyMesh, type ClipRecipe, type FitOverrides, type Skeleton } from '@lantern/motion';
import { openCastOf, openCharacter, skinMesh } from './cast';
import { copyForWire } from './clip-result';
import { fittedView, fitView, type FittedView, type FitView } from './fitting';
import { takeOf, type Held } from './held';
import type { Markers } from './markers';

/** What a character looks like. */
export interface CharacterView {
  readonly skeleton: Skeleton;
  readonly mesh: BodyMesh;
  readonly markers: Markers | null;
}

/** What the worker does with characters. */
export const fitApi = {
  /** What a character looks like, and its parts. */
  async character(project: string, id: string): Promise<CharacterView> {
    const character = await openCharacter(project, id);
    const body = bodyOfParts(character.parts.parts);
    return {
      skeleton: character.skeleton,
      mesh: skinMesh(character),
      markers: body && { ...sidesOf(character.skeleton, body), footprints: [] },
    };
  },

  /** Who of a take and a character is mapped to whom, and their references. */
  async fitView(id: string, character: string, settings: FitOverrides): Promise<FitView | { problem: string }> {
    const { motion, project } = await takeOf(id);
    return orProblem(async () => fitView(motion, await openCharacter(project, character), settings));
  },

  /** A take on a character. */
  async fitted(id: string, character: string, settings: FitOverrides): Promise<FittedView | { problem: string }> {
    const { motion, project } = await takeOf(id);
    return orProblem(async () => {
      const view = fittedView(motion, await openCharacter(project, character), settings);
      return { ...view, motion: copyForWire(view.motion) };
    });
  },
};

/** An open take, with whom its recipe is fitted to open too. */
export async function withCast(id: string, steps: ClipRecipe['steps']): Promise<Held> {
  const take = await takeOf(id);
  await openCastOf(take.project, steps);
  return take;
}

/** Errors lose their class between threads; the sentence is what matters. */
export async function orProblem<T>(run: () => Promise<T>): Promise<T | { problem: string }> {
  try {
    return await run();
  } catch (error) {
    if (error instanceof InputError) return { problem: error.message };
    throw error;
  }
}
