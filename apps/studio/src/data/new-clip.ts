import { nameByPattern, stepSchema, swapSides, type Proposal, type RecipeStep } from '@lantern/motion';
import type { ClipDoc } from './clips-store';

/** The recipe that a new clip begins with: fitted to whom the project's clips are, a closed loop (or the cut as it is) with its feet held, whose root starts at the origin. */
export const defaultSteps = (isLoop = true, fitTo = ''): RecipeStep[] => [
  ...(fitTo ? [stepSchema.parse({ kind: 'fit', character: fitTo })] : []),
  ...(isLoop ? [newStep('loop')] : []),
  newStep('foot-lock'),
  newStep('travel'),
];

/** The order in which steps are run. */
export const STEP_ORDER = [
  'fit',
  'floor',
  'typical-cycle',
  'mirror',
  'loop',
  'even-out',
  'speed',
  'extend',
  'path',
  'foot-lock',
  'travel',
  'retime',
] as const satisfies readonly RecipeStep['kind'][];

/** @param mps of the clip now: a speed step begins with what it has */
export function newStep(kind: RecipeStep['kind'], mps = 1.4): RecipeStep {
  // The first character there is, until another is chosen.
  if (kind === 'fit') return stepSchema.parse({ kind, character: 'wick' });
  if (kind === 'travel') return stepSchema.parse({ kind, start: 'origin' });
  if (kind === 'speed') return stepSchema.parse({ kind, mps: Math.max(0.05, Number(mps.toFixed(2))) });
  if (kind === 'path') return stepSchema.parse({ kind, shape: 'arc' });
  return stepSchema.parse({ kind });
}

/** The recipe with one more step, in its place. */
export function withStep(steps: readonly RecipeStep[], kind: RecipeStep['kind'], mps?: number): RecipeStep[] {
  const rank = (step: RecipeStep) => STEP_ORDER.indexOf(step.kind);
  return [...steps, newStep(kind, mps)].sort((a, b) => rank(a) - rank(b));
}

/** The other side of a clip: mirrored, or no longer so; its name and direction change sides, contacts set by hand change feet. */
export function otherSide(doc: ClipDoc, docs: readonly Pick<ClipDoc, 'name'>[]): ClipDoc {
  const mirrored = doc.steps.some((step) => step.kind === 'mirror' && !step.off);
  const bare = doc.steps.filter((step) => step.kind !== 'mirror');
  const steps = (mirrored ? bare : withStep(bare, 'mirror')).map(onOtherSide);
  const swapped = swapSides(doc.name);
  const base = swapped === doc.name ? `${doc.name}-${mirrored ? 'unmirrored' : 'mirrored'}` : swapped;
  const name = docs.some((d) => d.name.toLowerCase() === base.toLowerCase()) ? freeName(base, docs) : base;
  return { ...doc, id: crypto.randomUUID(), name, gait: swapSides(doc.gait), direction: swapSides(doc.direction), steps };
}

/** What a step says of a side, said of the other. */
function onOtherSide(step: RecipeStep): RecipeStep {
  switch (step.kind) {
    case 'loop':
      return typeof step.start === 'string' ? { ...step, start: swapSides(step.start) as typeof step.start } : step;
    case 'path':
      return { ...step, radius: -step.radius, turnDeg: -step.turnDeg, points: step.points.map(([x, z]) => [-x, z]) };
    case 'foot-lock':
      return step.contacts ? { ...step, contacts: { left: step.contacts.right, right: step.contacts.left } } : step;
    default:
      return step;
  }
}

/** A clip cut elsewhere in its take; contacts set by hand stay where they are in the take. */
export function recut(doc: ClipDoc, { from, to }: { readonly from: number; readonly to: number }): ClipDoc {
  const by = doc.from - from;
  const move = (intervals: readonly { from: number; to: number }[]) =>
    intervals.map((c) => ({ from: Math.max(0, c.from + by), to: c.to + by })).filter((c) => c.to > c.from && c.from <= to - from);
  const steps = doc.steps.map((step) =>
    step.kind === 'foot-lock' && step.contacts
      ? { ...step, contacts: { left: move(step.contacts.left), right: move(step.contacts.right) } }
      : step.kind === 'fit' && step.placement
        ? { ...step, placement: movedHolds(step.placement, by) }
        : step,
  );
  return { ...doc, from, to, steps };
}

type Placements = NonNullable<Extract<RecipeStep, { kind: 'fit' }>['placement']>;

/** Places that are kept for a stretch stay where they are in the take. */
function movedHolds(placement: Placements, by: number): Placements {
  return Object.fromEntries(
    Object.entries(placement).map(([limb, one]) => [
      limb,
      { ...one, holds: one.holds.map((hold) => ({ ...hold, from: hold.from + by, to: hold.to + by })) },
    ]),
  );
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
