'use client';
import { Choose, Label, Share } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';

/** What follows later than the body, and by how much. */
export function DelayCard({ step, about, onChange }: CardProps<'delay'>) {
  const joints = Object.fromEntries(['', ...about.joints.slice(1)].map((name) => [name, name || 'choose…']));
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose
        label="of"
        value={step.of}
        options={{ arms: 'both arms', 'left arm': 'the left arm', 'right arm': 'the right arm', head: 'the head', joint: 'a joint' }}
        onChange={(of) => onChange({ ...step, of })}
      />
      {step.of === 'joint' && (
        <Choose label="joint" value={step.joint} options={joints} onChange={(joint) => onChange({ ...step, joint })} />
      )}
      <Label>later by</Label>
      <TypedNumber
        name="Frames later"
        value={step.frames}
        unit="frames"
        least={0}
        most={30}
        step={0.5}
        onChange={(frames) => onChange({ ...step, frames })}
      />
      <Share
        label="from the first joint"
        name="How much of it the first joint has"
        value={step.first}
        onChange={(first) => onChange({ ...step, first })}
      />
    </StepCard>
  );
}
