import type { Clip } from '../model/clip';
import type { RecipeStep } from '../steps';
import type { ClipRecipe } from './recipe';

/** A step of a recipe, with the clip as it came into it and as it went out. */
export interface StepClips {
  readonly step: RecipeStep;
  readonly before: Clip;
  readonly after: Clip;
}

/**
 * The clip after every step of a recipe. Each is run as it is asked for, and prefixes are remembered, so that looking at all of them costs what
 * running the recipe does.
 *
 * @param run runs recipes over the clip's take
 *
 * @example
 * stepClips(run, { from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) }).length; // 1
 */
export function stepClips(run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): StepClips[] {
  const upTo = (count: number) => run({ ...recipe, steps: recipe.steps.slice(0, count) });
  return recipe.steps.map((step, i) => ({
    step,
    get before() {
      return upTo(i);
    },
    get after() {
      return upTo(i + 1);
    },
  }));
}
