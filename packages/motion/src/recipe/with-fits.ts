import type { RecipeStep } from '../steps';
import type { SavedFit } from '../fit/settings';

/**
 * The steps of a clip with what is saved for its suit put into its fit; what the clip itself says goes first.
 *
 * @param signature of the take's skeleton
 */
export function withFits(steps: readonly RecipeStep[], signature: string, fits: readonly SavedFit[]): RecipeStep[] {
  return steps.map((step) => {
    if (step.kind !== 'fit') return step;
    const of = fits.filter(({ character }) => character === step.character);
    const saved = of.find(({ source }) => source === signature) ?? of.find(({ source }) => source === undefined);
    if (!saved) return step;
    const { source: _source, ...settings } = saved;
    return { ...settings, ...step };
  });
}

/** Whom a recipe fits its clip to, if anybody. */
export function characterIn(steps: readonly RecipeStep[]): string | null {
  for (const step of steps) if (step.kind === 'fit' && !step.off) return step.character;
  return null;
}
