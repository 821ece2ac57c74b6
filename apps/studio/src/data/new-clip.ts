import { stepSchema, type RecipeStep } from '@lantern/motion';
import type { ClipDoc } from './clips-store';

/** The recipe that a new clip begins with: a closed loop (or the cut as it is) with its feet held, whose root starts at the origin. */
export const defaultSteps = (isLoop = true): RecipeStep[] => [
  ...(isLoop ? [newStep('loop')] : []),
  newStep('foot-lock'),
  newStep('travel'),
];

/** The order in which steps are run. */
export const STEP_ORDER = ['floor', 'typical-cycle', 'loop', 'foot-lock', 'travel'] as const satisfies readonly RecipeStep['kind'][];

export const newStep = (kind: RecipeStep['kind']): RecipeStep =>
  kind === 'travel' ? stepSchema.parse({ kind, start: 'origin' }) : stepSchema.parse({ kind });

/** The recipe with one more step, in its place. */
export function withStep(steps: readonly RecipeStep[], kind: RecipeStep['kind']): RecipeStep[] {
  const rank = (step: RecipeStep) => STEP_ORDER.indexOf(step.kind);
  return [...steps, newStep(kind)].sort((a, b) => rank(a) - rank(b));
}

/** A clip cut elsewhere in its take; contacts set by hand stay where they are in the take. */
export function recut(doc: ClipDoc, { from, to }: { readonly from: number; readonly to: number }): ClipDoc {
  const by = doc.from - from;
  const move = (intervals: readonly { from: number; to: number }[]) =>
    intervals.map((c) => ({ from: Math.max(0, c.from + by), to: c.to + by })).filter((c) => c.to > c.from && c.from <= to - from);
  const steps = doc.steps.map((step) =>
    step.kind === 'foot-lock' && step.contacts
      ? { ...step, contacts: { left: move(step.contacts.left), right: move(step.contacts.right) } }
      : step,
  );
  return { ...doc, from, to, steps };
}

/** A name that no clip has: the base itself if it is free, else with the next free number. */
export const ownName = (base: string, docs: readonly ClipDoc[]): string =>
  docs.some(({ name }) => name.toLowerCase() === base.toLowerCase()) ? freeName(base, docs) : base;

/** `stroll` → `stroll-01`, or the next free number. */
export function freeName(base: string, docs: readonly ClipDoc[]): string {
  const stem = base.replace(/-\d+$/, '');
  const taken = new Set(docs.map((doc) => doc.name.toLowerCase()));
  for (let n = 1; ; n++) {
    const name = `${stem}-${String(n).padStart(2, '0')}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}
