import {
  stepsGiven,
  createStep,
  isMirror,
  nameByPattern,
  stepsOfOtherSide,
  stepsRecut,
  swapSides,
  type Cut,
  type Proposal,
  type RecipeStep,
  type StepKind,
} from '@lantern/motion';
import type { ClipDoc } from './clips-store';

/** The recipe that a new clip begins with: fitted to whom the project's clips are, a closed loop (or the cut as it is) with its feet held, whose root starts at the origin. */
export function defaultSteps(isLoop = true, fitTo = ''): RecipeStep[] {
  const kinds: readonly StepKind[] = [...(fitTo ? (['fit'] as const) : []), ...(isLoop ? (['loop'] as const) : []), 'foot-lock', 'travel'];
  return kinds.map((kind) => createStep(kind, { clip: null, characters: [fitTo] }));
}

/** The other side of a clip: mirrored, or no longer so; its name and direction change sides, contacts set by hand change feet. */
export function otherSide(doc: ClipDoc, docs: readonly Pick<ClipDoc, 'name'>[]): ClipDoc {
  const swapped = swapSides(doc.name);
  const base = swapped === doc.name ? `${doc.name}-${doc.steps.some(isMirror) ? 'unmirrored' : 'mirrored'}` : swapped;
  const name = docs.some((d) => d.name.toLowerCase() === base.toLowerCase()) ? freeName(base, docs) : base;
  return {
    ...doc,
    id: crypto.randomUUID(),
    name,
    gait: swapSides(doc.gait),
    direction: swapSides(doc.direction),
    steps: stepsOfOtherSide(doc.steps),
  };
}

/** A clip cut elsewhere in its take; what its steps say in frames stays where it is in the take. */
export const recut = (doc: ClipDoc, cut: Cut): ClipDoc => ({
  ...doc,
  source: { ...doc.source, from: cut.from, to: cut.to },
  steps: stepsRecut(doc.steps, doc.source, cut),
});

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

/** A clip with steps of another; in the same take what they say of frames stays at the same instants. */
export const withStepsGiven = (doc: ClipDoc, from: ClipDoc, steps: readonly RecipeStep[]): ClipDoc => ({
  ...doc,
  steps: stepsGiven(doc.steps, steps, doc.source.take === from.source.take ? from.source.from - doc.source.from : 0),
});
