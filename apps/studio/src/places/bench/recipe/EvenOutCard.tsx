'use client';
import { Share } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import type { CardProps } from './card-props';

/** Both halves of a cycle made alike. */
export function EvenOutCard({ step, onChange }: CardProps<'even-out'>) {
  return (
    <StepCard step={step} onChange={onChange}>
      <Share label="by" name="How much is evened out" value={step.factor} onChange={(factor) => onChange({ ...step, factor })} />
    </StepCard>
  );
}
