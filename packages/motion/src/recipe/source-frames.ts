import type { Clip } from '../model/clip';
import { timeMap } from '../math/time-map';
import { allPins } from '../steps/retime';
import type { ClipRecipe } from './recipe';

/**
 * For every frame of a finished clip the frame of its cut that is shown there, counted from the cut's first; null where a step has made frames
 * that are no single one of the take's (a typical cycle).
 *
 * @param run runs recipes over the clip's take; prefixes of the recipe are asked for
 */
export function sourceFrames(run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): Float64Array | null {
  let at: Float64Array = Float64Array.from({ length: recipe.to - recipe.from + 1 }, (_, f) => f);
  for (const [i, step] of recipe.steps.entries()) {
    if (step.off) continue;
    const clipBefore = () => run({ ...recipe, steps: recipe.steps.slice(0, i) });
    const framesAfter = () => run({ ...recipe, steps: recipe.steps.slice(0, i + 1) }).motion.frames;
    const last = at.length - 1;
    switch (step.kind) {
      case 'typical-cycle':
        return null;
      case 'loop':
        // A cycle that begins elsewhere than its cut does comes round to what is before that.
        if (step.start !== 'cut' && last > 0) {
          const by = run({ ...recipe, steps: recipe.steps.slice(0, i + 1) }).closing?.start ?? 0;
          const before = at;
          if (by > 0) at = before.map((_, f) => before[(f + by) % last]);
        }
        break;
      case 'extend': {
        const before = at;
        at = Float64Array.from({ length: framesAfter() }, (_, f) => before[last > 0 ? f % last : 0]);
        break;
      }
      case 'speed': {
        const frames = framesAfter();
        at = sampled(
          at,
          Float64Array.from({ length: frames }, (_, f) => (f * last) / Math.max(1, frames - 1)),
        );
        break;
      }
      case 'retime': {
        const clip = clipBefore();
        at = sampled(at, timeMap(allPins(clip, step), clip.loop));
        break;
      }
    }
  }
  return at;
}

/** Of two neighbouring frames the nearer: between the end of one cycle and the start of the next there is nothing. */
const sampled = (at: Float64Array, instants: Float64Array): Float64Array =>
  instants.map((t) => at[Math.min(at.length - 1, Math.max(0, Math.round(t)))]);
