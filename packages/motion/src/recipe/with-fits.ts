import type { Mapping } from '../fit/mapped-body';
import type { SavedFit } from '../fit/settings';
import { settleStep, stepOf, type RecipeStep } from '../steps';

/**
 * The steps of a clip with what is saved for its suit put into its fit; what the clip itself says goes first.
 *
 * @param signature of the take's skeleton
 *
 * @example
 * withFits(recipeSchema.parse([{ kind: 'fit', character: 'tallow' }]), 'suit', []).length; // 1
 */
export const withFits = (steps: readonly RecipeStep[], signature: string, fits: readonly SavedFit[]): RecipeStep[] =>
  steps.map((step) => settleStep(step, { signature, fits }));

/**
 * Whom a recipe fits its clip to, if anybody.
 *
 * @example
 * characterIn(recipeSchema.parse([{ kind: 'fit', character: 'tallow' }])); // 'tallow'
 */
export const characterIn = (steps: readonly RecipeStep[]): string | null => stepOf(steps, 'fit')?.character ?? null;

/**
 * What a person has mapped by hand on the skeletons of a suit, in any of its fits: the last word on a part counts.
 *
 * @param signature of the take's skeleton
 *
 * @example
 * mappingOf('suit', []); // {}
 */
export const mappingOf = (signature: string, fits: readonly SavedFit[]): Mapping =>
  Object.assign(
    {},
    ...fits.filter(({ source }) => source === undefined || source === signature).map(({ mapping }) => mapping?.source ?? {}),
  );
