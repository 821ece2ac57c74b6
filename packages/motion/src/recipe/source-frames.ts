import type { Clip } from '../model/clip';
import { framesBefore } from '../steps';
import type { ClipRecipe } from './recipe';
import { stepClips } from './step-clips';

/**
 * For every frame of a finished clip the frame of its cut that is shown there, counted from the cut's first; null where a step has made frames
 * that are no single one of the take's (a typical cycle).
 *
 * @param run runs recipes over the clip's take; prefixes of the recipe are asked for
 *
 * @example
 * sourceFrames(run, { from: 10, to: 14, steps: [] }); // [0, 1, 2, 3, 4]
 */
export function sourceFrames(run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): Float64Array | null {
  let at: Float64Array = Float64Array.from({ length: recipe.to - recipe.from + 1 }, (_, f) => f);
  for (const clips of stepClips(run, recipe)) {
    if (clips.step.off) continue;
    const frames = framesBefore(clips.step, clips);
    if (!frames) return null;
    const cut = at;
    // Of two neighbouring frames the nearer: between the end of one cycle and the start of the next there is nothing.
    at = frames.map((f) => cut[Math.min(cut.length - 1, Math.max(0, Math.round(f)))]);
  }
  return at;
}
