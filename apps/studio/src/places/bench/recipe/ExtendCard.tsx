'use client';
import { Choose, Label } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';

/** A cycle walked on. */
export function ExtendCard({ step, about, onChange }: CardProps<'extend'>) {
  const metres = about.measured?.figures?.distanceM;
  const byMetres = step.metres !== undefined;
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose
        label="for"
        value={byMetres ? 'metres' : 'cycles'}
        options={{ cycles: 'a number of cycles', metres: 'a distance' }}
        onChange={(by) => onChange({ ...step, metres: by === 'metres' ? Number((metres ?? 5).toFixed(2)) : undefined })}
      />
      <Label>{byMetres ? 'distance' : 'cycles'}</Label>
      {byMetres ? (
        <TypedNumber
          name="Distance to walk on"
          value={step.metres ?? 5}
          unit="m"
          least={0.1}
          most={500}
          step={0.5}
          onChange={(value) => onChange({ ...step, metres: value })}
        />
      ) : (
        <TypedNumber
          name="Cycles to walk on"
          value={step.cycles}
          least={1}
          most={200}
          digits={0}
          onChange={(cycles) => onChange({ ...step, cycles })}
        />
      )}
    </StepCard>
  );
}
