'use client';
import { Label } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';
import { Troubles } from './Troubles';

/** How far arms and legs stay off what they would go into. */
export function ClearanceCard({ step, about, onChange }: CardProps<'clearance'>) {
  return (
    <StepCard step={step} onChange={onChange}>
      <Label>room between</Label>
      <TypedNumber
        name="Room between limbs and body, centimetres"
        unit="cm"
        value={step.room}
        least={-10}
        most={20}
        step={0.5}
        digits={1}
        onChange={(room) => onChange({ ...step, room })}
      />
      <Troubles of={about.measured?.steps[step.id]} />
    </StepCard>
  );
}
