'use client';
import { Typography } from '@mui/material';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';
import { Choose, Label } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';

/** A speed asked for, and what it asks of strides, time and legs. */
export function SpeedCard({ step, about, onChange }: CardProps<'speed'>) {
  const change = about.measured?.steps[step.id]?.speed;
  const gait = about.measured?.gait;
  const percent = (factor: number) => `${factor >= 1 ? '+' : '−'}${Math.abs((factor - 1) * 100).toFixed(0)} %`;
  return (
    <StepCard step={step} onChange={onChange}>
      <Label>goes</Label>
      <TypedNumber
        name="Speed asked for"
        value={step.mps}
        unit="m/s"
        least={0.05}
        most={15}
        step={0.05}
        onChange={(mps) => onChange({ ...step, mps })}
      />
      <Choose
        label="by"
        value={step.by}
        options={{ mix: 'both, as people do', stride: 'longer strides', cadence: 'quicker strides' }}
        onChange={(by) => onChange({ ...step, by })}
      />
      <Choose
        label="arms"
        value={step.arms ? 'swing' : 'keep'}
        options={{ swing: 'swing with the strides', keep: 'as captured' }}
        onChange={(arms) => onChange({ ...step, arms: arms === 'swing' })}
      />
      {change && (
        <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
          strides {percent(change.stride)}, cadence {percent(change.cadence)}, legs changed by {change.legDeg.toFixed(0)}° at the most
        </Typography>
      )}
      {gait && (
        <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
          steps {gait.stepM.toFixed(2)} m, {gait.cadence.toFixed(0)} a minute
        </Typography>
      )}
      {gait?.warnings.map((warning) => (
        <Typography key={warning} variant="body2" role="status" sx={{ gridColumn: '1 / -1' }}>
          ▲ {warning}
        </Typography>
      ))}
    </StepCard>
  );
}
