import type { Clip } from '../model/clip';
import { framesBefore } from '../steps';
import type { ClipRecipe } from './recipe';
import { stepClips } from './step-clips';
import { series } from '../math/series';

/**
 * For every frame of a finished clip the frame of its cut that is shown there, counted from the cut's first; null where a step has made frames
 * that are no single one of the take's (a typical cycle).
 *
 * @param run runs recipes over the clip's take; prefixes of the recipe are asked for
 *
 * @example
 * sourceFrames(run, { from: 10, to: 14, steps: [] }); // [0, 1, 2, 3, 4]
 */
export const sourceFrames = (run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): Float64Array | null => framesSince(run, recipe, 0);

/**
 * The same counted where a step begins: for every frame of the finished clip the frame that came into the step.
 *
 * @param index of the step in the recipe
 *
 * @example
 * framesSince(run, { from: 10, to: 14, steps: [] }, 0); // [0, 1, 2, 3, 4]
 */
export function framesSince(run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe, index: number): Float64Array | null {
  const clips = stepClips(run, recipe);
  const { frames } = (index < clips.length ? clips[index].before : run(recipe)).motion;
  let at: Float64Array = series(frames, (f) => f);
  for (const each of clips.slice(index)) {
    if (each.step.off) continue;
    const found = framesBefore(each.step, each);
    if (!found) return null;
    const before = at;
    at = found.map((f) => between(before, f));
  }
  return at;
}

/** Frames further apart than this are no neighbours in time: one is the end of a cycle, the other its start. */
const APART = 8;

/** What is shown at a frame between two: between theirs where they follow one another, else what the nearer shows. */
function between(at: Float64Array, frame: number): number {
  const f = Math.min(at.length - 1, Math.max(0, frame));
  const low = Math.floor(f);
  const [a, b] = [at[low], at[Math.min(at.length - 1, low + 1)]];
  return Math.abs(b - a) <= APART ? a + (b - a) * (f - low) : at[Math.round(f)];
}
