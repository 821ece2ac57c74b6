import { z } from 'zod';
import { aboutStep, bareStep, STEP_LIST, type RecipeStep, type StepKind } from '../steps';
import { STAGES } from '../steps/definition';

/** Something about the order of a recipe: which step, and what to do about it. */
export interface OrderProblem {
  readonly index: number;
  readonly message: string;
}

/**
 * What is wrong with the order of a recipe: a step behind another after which it would do nothing, or a second one of what can be done once.
 *
 * @example
 * // Step 2, “Loop”, stands behind step 1, “Travel”, where it would do nothing: put it before “Travel”.
 * orderProblems([{ kind: 'travel' }, { kind: 'loop' }])[0].index; // 1
 */
export function orderProblems(steps: readonly { readonly kind: StepKind }[]): OrderProblem[] {
  const problems: OrderProblem[] = [];
  let latest = { stage: 0, index: -1 };
  steps.forEach(({ kind }, index) => {
    const { title, stages, once } = aboutStep(kind);
    const [first, last] = stages.map((stage) => STAGES.indexOf(stage));
    const same = steps.findIndex((step) => step.kind === kind);
    if (once && same < index) {
      problems.push({
        index,
        message: `Step ${index + 1}, “${title}”, can be done once, and step ${same + 1} does it: take one of them out.`,
      });
    } else if (last < latest.stage) {
      const other = aboutStep(steps[latest.index].kind).title;
      const message = `Step ${index + 1}, “${title}”, stands behind step ${latest.index + 1}, “${other}”, where it would do nothing: put it before “${other}”.`;
      problems.push({ index, message });
    }
    if (first > latest.stage) latest = { stage: first, index };
  });
  return problems;
}

/** An id that no step of a recipe has: its kind, or its kind and a number. */
export function freeStepId(steps: readonly { readonly id?: string }[], kind: StepKind): string {
  const taken = new Set(steps.map(({ id }) => id));
  let id: string = kind;
  for (let n = 2; taken.has(id); n++) id = `${kind}-${n}`;
  return id;
}

/**
 * A recipe as it stands in a file: steps in an order in which each does something, every one with an id of its own.
 *
 * @example
 * recipeSchema.parse([{ kind: 'loop' }, { kind: 'travel' }]).map(({ id }) => id); // ['loop', 'travel']
 */
export const recipeSchema = z
  .array(bareStep)
  .max(50)
  .transform((steps): RecipeStep[] => {
    const given = steps.map(({ id }) => ({ id }));
    return steps.map((step, i) => {
      const id = step.id ?? freeStepId(given, step.kind);
      given[i] = { id };
      return { ...step, id };
    });
  })
  .superRefine((steps, context) => {
    const problems = orderProblems(steps);
    steps.forEach(({ id }, index) => {
      if (steps.findIndex((step) => step.id === id) < index) problems.push({ index, message: `Two steps have the id “${id}”.` });
    });
    for (const { index, message } of problems) context.addIssue({ code: 'custom', path: [index], message });
  });

/**
 * A recipe with one more step, as near to its place in the order of work as it can do something.
 *
 * @example
 * withStep(recipeSchema.parse([{ kind: 'travel' }]), stepSchema.parse({ kind: 'loop' })).map(({ kind }) => kind); // ['loop', 'travel']
 */
export function withStep(steps: readonly RecipeStep[], step: RecipeStep): RecipeStep[] {
  const rank = (kind: StepKind) => STEP_LIST.findIndex((about) => about.kind === kind);
  const added = { ...step, id: freeStepId(steps, step.kind) };
  const places = Array.from({ length: steps.length + 1 }, (_, at) => {
    const recipe = [...steps.slice(0, at), added, ...steps.slice(at)];
    const astray = recipe.filter(({ kind }, i) => (i < at ? rank(kind) > rank(added.kind) : rank(kind) < rank(added.kind))).length;
    return { recipe, cost: 100 * orderProblems(recipe).length + astray };
  });
  // Of equally good ones the last: behind others of its kind.
  return places.reduce((best, place) => (place.cost <= best.cost ? place : best)).recipe;
}

/**
 * The kinds of step that can be added to a recipe, in the order of work.
 *
 * @example
 * addableSteps(recipeSchema.parse([{ kind: 'loop' }])).some(({ kind }) => kind === 'foot-lock'); // true
 */
export const addableSteps = (steps: readonly RecipeStep[]) =>
  STEP_LIST.filter(({ kind, once }) => !(once && steps.some((step) => step.kind === kind)));
