import { clipFigures } from '../measure/clip-figures';
import { forwardKinematics } from '../model/kinematics';
import type { Clip } from '../model/clip';
import { farthest } from '../measure/farthest';
import type { ClosedCycle } from '../steps/close-cycle';
import type { LoopParams } from '../steps/loop';
import { stepOf } from '../steps';
import type { ClipRecipe } from './recipe';

/** What a way of closing a loop makes of a clip. */
export interface Closing {
  readonly close: LoopParams['close'];
  readonly tick: number;
  /** Worst foot slide of the finished clip, cm. */
  readonly slideCm: number;
  /** Greatest distance of a joint from where it was captured, before heading and drift are seen to, cm. */
  readonly movedCm: number;
  /** What was done: a blend that is worse than closing around the seam is not made, and a cut that comes round by itself is left alone. */
  readonly way: ClosedCycle['way'];
}

const WAYS = ['blend', 'around', 'spread'] as const;

/**
 * The ways of closing a clip's loop beside one another, each with the rest of the recipe as it is.
 *
 * @param run runs recipes over the clip's take
 * @returns nothing for a clip without a loop step; no `blend` where the take has nothing beyond the cut
 *
 * @example
 * closings(run, { from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) }).length; // 3
 */
export function closings(run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): Closing[] {
  const step = stepOf(recipe.steps, 'loop');
  if (!step) return [];
  const at = recipe.steps.indexOf(step);
  const cut = run({ ...recipe, steps: recipe.steps.slice(0, at) });
  const before = forwardKinematics(cut.motion);
  return WAYS.filter((close) => close !== 'blend' || cut.lead !== null || cut.tail !== null).map((close) => {
    const bare = { ...step, close, heading: 'captured', sideways: 'captured', start: 'cut' } as const;
    const closed = run({ ...recipe, steps: [...recipe.steps.slice(0, at), bare] });
    const finished = run({ ...recipe, steps: recipe.steps.map((s, i) => (i === at ? { ...step, close } : s)) });
    const figures = clipFigures(finished);
    return {
      close,
      tick: figures?.tick ?? 0,
      slideCm: figures?.slideCm ?? 0,
      movedCm: 100 * farthest(before, forwardKinematics(closed.motion)),
      way: closed.closing?.way ?? close,
    };
  });
}
