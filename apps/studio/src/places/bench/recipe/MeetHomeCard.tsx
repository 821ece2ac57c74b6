'use client';
import { Typography } from '@mui/material';
import { Choose, Label } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';

/** The ends of a clip brought into the home pose of its set. */
export function MeetHomeCard({ step, onChange }: CardProps<'meet-home'>) {
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose
        label="end"
        value={step.end}
        options={{ auto: 'wherever he stands', first: 'the first frame', last: 'the last frame', both: 'both ends' }}
        onChange={(end) => onChange({ ...step, end })}
      />
      <Label>within</Label>
      <TypedNumber
        name="How long the body takes into the home pose"
        value={step.seconds}
        unit="s"
        least={0.1}
        most={3}
        step={0.05}
        digits={2}
        onChange={(seconds) => onChange({ ...step, seconds })}
      />
      <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
        {step.pose ? 'Into the home pose that the set had when this was added.' : 'No home pose yet: choose one in Set.'}
      </Typography>
    </StepCard>
  );
}
