import type { RecipeStep } from '../steps';

/** The steps of a clip whose cut lasts `factor` times as many frames: contacts set by hand keep their instants. */
export function stepsAtRate(steps: readonly RecipeStep[], factor: number): RecipeStep[] {
  const scaled = (intervals: readonly { readonly from: number; readonly to: number }[]) =>
    intervals.map(({ from, to }) => {
      const start = Math.round(from * factor);
      return { from: start, to: Math.max(start + 1, Math.round(to * factor)) };
    });
  return steps.map((step) =>
    step.kind === 'foot-lock' && step.contacts && factor !== 1
      ? { ...step, contacts: { left: scaled(step.contacts.left), right: scaled(step.contacts.right) } }
      : step,
  );
}
