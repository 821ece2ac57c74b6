import type { FrameMap } from '../model/frame-map';
import { countsAnew, createStep, mapStep, stepOnOtherSide, isMirror, type RecipeStep } from '../steps';
import { withStep } from './order';

/** A piece of a take, in its frames, first and last. */
export interface Cut {
  readonly from: number;
  readonly to: number;
}

/** The steps of a recipe whose cut's frames have gone elsewhere. */
export const stepsMapped = (steps: readonly RecipeStep[], time: FrameMap): RecipeStep[] => steps.map((step) => mapStep(step, time));

/**
 * The steps of a clip whose take is brought to another rate, or whose like is found in another take: all that they say in frames is said of the
 * same instants.
 *
 * @param factor frames of now to a frame of before: 0.5 from 120 to 60 a second
 * @example
 * // Half as many frames a second: so that it still lasts 1.08 s, 129 frames become
 * stepOf(stepsAtRate(recipeSchema.parse([{ kind: 'retime', frames: 129 }]), 0.5), 'retime').frames; // 65
 */
export const stepsAtRate = (steps: readonly RecipeStep[], factor: number): RecipeStep[] =>
  factor === 1 ? [...steps] : stepsMapped(steps, { scale: factor, shift: 0 });

/**
 * The steps of a clip that is cut elsewhere in its take: contacts, pins and stretches stay where they are in the take. Behind a cycle that begins
 * with a landing or in mid-stance frames are counted from there, wherever it is cut.
 *
 * @example
 * stepsRecut(recipeSchema.parse([{ kind: 'loop' }]), { from: 10, to: 60 }, { from: 20, to: 60 }).length; // 1
 */
export function stepsRecut(steps: readonly RecipeStep[], before: Cut, after: Cut): RecipeStep[] {
  const shift = before.from - after.from;
  const own = steps.findIndex(countsAnew);
  const moved = stepsMapped(own < 0 ? steps : steps.slice(0, own + 1), { scale: 1, shift });
  return own < 0 ? moved : [...moved, ...steps.slice(own + 1)];
}

/**
 * The steps of the other side of a clip: mirrored, or no longer so; what the steps behind the mirror say of sides is said of the others.
 *
 * @example
 * stepsOfOtherSide(recipeSchema.parse([{ kind: 'loop' }])).map(({ kind }) => kind); // ['mirror', 'loop']
 */
export function stepsOfOtherSide(steps: readonly RecipeStep[]): RecipeStep[] {
  const at = steps.findIndex(isMirror);
  if (at >= 0) return steps.flatMap((step, i) => (i < at ? [step] : i === at ? [] : [stepOnOtherSide(step)]));
  const whole = withStep(steps, createStep('mirror'));
  const from = whole.findIndex(isMirror);
  return whole.map((step, i) => (i > from ? stepOnOtherSide(step) : step));
}
