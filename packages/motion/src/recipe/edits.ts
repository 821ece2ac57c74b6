import type { FloorTransform } from '../model/floor-transform';
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
 * @param floor where places in the world have gone, in another delivery of the take
 * @example
 * // Half as many frames a second: so that it still lasts 1.08 s, 129 frames become
 * stepOf(stepsAtRate(recipeSchema.parse([{ kind: 'retime', frames: 129 }]), 0.5), 'retime').frames; // 65
 */
export const stepsAtRate = (steps: readonly RecipeStep[], factor: number, floor?: FloorTransform): RecipeStep[] =>
  factor === 1 && !floor ? [...steps] : stepsMapped(steps, { scale: factor, shift: 0, ...(floor && { floor }) });

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

/**
 * The steps of a recipe with some of another clip's. One of a kind that is there already takes its place; layers of corrections are laid over those that
 * are there. All the others are put where they belong in the order of work.
 *
 * @param given steps of the other clip
 * @param shift frames by which what they say of frames is later in this clip; 0 where the two have no frames in common
 *
 * @example
 * const own = recipeSchema.parse([{ kind: 'loop' }, { kind: 'hips', sway: 1 }]);
 * stepsGiven(own, recipeSchema.parse([{ kind: 'hips', sway: 0.5 }, { kind: 'thin' }]), 0).map(({ kind }) => kind); // ['loop', 'hips', 'thin']
 */
export function stepsGiven(steps: readonly RecipeStep[], given: readonly RecipeStep[], shift: number): RecipeStep[] {
  return stepsMapped(given, { scale: 1, shift }).reduce<RecipeStep[]>(
    (all, step) => {
      const at = all.findIndex(({ kind }) => kind === step.kind);
      if (at < 0) return withStep(all, step);
      return all.map((own, i) => (i === at ? inPlaceOf(own, step) : own));
    },
    [...steps],
  );
}

function inPlaceOf(own: RecipeStep, given: RecipeStep): RecipeStep {
  if (own.kind !== 'corrections' || given.kind !== 'corrections') return { ...given, id: own.id };
  // The same layer given again is that layer.
  const kept = own.layers.filter((layer) => !given.layers.some(({ name }) => name === layer.name));
  return { ...own, layers: [...kept, ...given.layers] };
}
