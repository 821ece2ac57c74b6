import { nameByPattern, stepSchema, type Proposal, type RecipeStep } from '@lantern/motion';
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

/** `stroll` → `stroll-01`, or the next free number. */
export function freeName(base: string, docs: readonly Pick<ClipDoc, 'name'>[]): string {
  const stem = base.replace(/-\d+$/, '');
  const taken = new Set(docs.map((doc) => doc.name.toLowerCase()));
  for (let n = 1; ; n++) {
    const name = `${stem}-${String(n).padStart(2, '0')}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}

/** Names of offered clips after a pattern, each its own; where the pattern has no number, one is put where it is needed. */
export function offeredNames(
  proposals: readonly Proposal[],
  pattern: string,
  character: string,
  docs: readonly Pick<ClipDoc, 'name'>[],
): string[] {
  const taken = [...docs];
  return proposals.map(({ tags }) => {
    const named = (number: number) => nameByPattern(pattern, { ...tags, character: character.toLowerCase(), number });
    const free = (name: string) => !taken.some((doc) => doc.name.toLowerCase() === name.toLowerCase());
    let name = named(1);
    if (pattern.includes('{number}')) for (let n = 2; !free(name); n++) name = named(n);
    else if (!free(name)) name = freeName(name, taken);
    taken.push({ name });
    return name;
  });
}
