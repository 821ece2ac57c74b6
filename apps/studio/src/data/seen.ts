import { asCaptured, type RecipeStep } from '@lantern/motion';

/** A state of the open clip that is seen as a ghost over what the clip is. */
export type Ghost =
  | { readonly how: 'captured' }
  | { readonly how: 'without'; readonly id: string }
  /** The recipe as far as a step. */
  | { readonly how: 'up to'; readonly id: string };

/**
 * The recipe of a ghost; null where the step that it goes by is not there, or is switched off.
 *
 * @example
 * ghostSteps([], { how: 'without', id: 'hips' }); // null
 */
export function ghostSteps(steps: readonly RecipeStep[], ghost: Ghost): readonly RecipeStep[] | null {
  if (ghost.how === 'captured') return asCaptured(steps);
  const at = steps.findIndex(({ id, off }) => id === ghost.id && !off);
  if (at < 0) return null;
  return ghost.how === 'up to' ? steps.slice(0, at + 1) : steps.map((step, i) => (i === at ? { ...step, off: true as const } : step));
}

/** The recipe with all steps but one switched off; the recipe itself where that one is not there. */
export const stepsAlone = (steps: readonly RecipeStep[], only: string | null): readonly RecipeStep[] =>
  steps.some(({ id }) => id === only) ? steps.map((step) => (step.id === only ? step : { ...step, off: true as const })) : steps;
