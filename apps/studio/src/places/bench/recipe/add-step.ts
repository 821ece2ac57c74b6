import { withStep, type RecipeStep } from '@lantern/motion';
import { setFold } from '@/controls/folds';
import { foldOf } from '@/controls/StepCard';
import type { ClipDoc } from '@/data/clips-store';

/** The clip with a step added in its place, and its card opened. */
export function withStepOpened(doc: ClipDoc, step: RecipeStep): ClipDoc {
  const steps = withStep(doc.steps, step);
  for (const { id } of steps) if (!doc.steps.some((known) => known.id === id)) setFold(foldOf({ id }), true);
  return { ...doc, steps };
}
