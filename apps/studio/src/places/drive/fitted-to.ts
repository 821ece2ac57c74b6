import { stepSchema, withStep } from '@lantern/motion';
import type { SetMember } from '@/data/set-view';

/** The clips of a set as they would be on somebody else. */
export const fittedTo = (members: readonly SetMember[], character: string): readonly SetMember[] =>
  members.map((member) => {
    const { steps } = member.asked.recipe;
    const isFitted = steps.some(({ kind }) => kind === 'fit');
    const other = isFitted
      ? steps.map((step) => (step.kind === 'fit' ? { ...step, character } : step))
      : withStep(steps, stepSchema.parse({ kind: 'fit', character }));
    return { ...member, asked: { ...member.asked, recipe: { ...member.asked.recipe, steps: other } } };
  });
