'use client';
import { Choose } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import type { CardProps } from './card-props';

/** The ground put at zero and level. */
export function FloorCard({ step, onChange }: CardProps<'floor'>) {
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose
        label="height"
        value={step.height === 'auto' ? 'auto' : 'set'}
        options={{ auto: 'where the feet stand', set: 'as captured' }}
        onChange={(height) => onChange({ ...step, height: height === 'auto' ? 'auto' : 0 })}
      />
      <Choose
        label="tilt"
        value={step.tilt === 'auto' ? 'auto' : 'none'}
        options={{ auto: 'made level', none: 'as captured' }}
        onChange={(tilt) => onChange({ ...step, tilt })}
      />
    </StepCard>
  );
}
