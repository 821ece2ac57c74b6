'use client';
import type { RecipeStep } from '@lantern/motion';
import { Typography } from '@mui/material';
import { TypedNumber } from '@/controls/TypedNumber';
import type { ClipMeasured } from '@/worker/core.worker';
import { Choose, Label, StepCard } from '../../../controls/StepCard';

type SpeedStep = Extract<RecipeStep, { kind: 'speed' }>;

/** A speed asked for, and what it asks of strides, time and legs. */
export function SpeedCard({
  step,
  about,
  gait,
  onChange,
}: {
  step: SpeedStep;
  about: ClipMeasured['speed'];
  gait: ClipMeasured['gait'];
  onChange: (step: SpeedStep) => void;
}) {
  const percent = (factor: number) => `${factor >= 1 ? '+' : '−'}${Math.abs((factor - 1) * 100).toFixed(0)} %`;
  return (
    <StepCard
      title="Speed"
      step={step}
      onChange={onChange}
      figure={
        about && (
          <Typography variant="body2" color="text.secondary">
            was {about.mps.toFixed(2)} m/s
          </Typography>
        )
      }
    >
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
      {about && (
        <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
          strides {percent(about.stride)}, cadence {percent(about.cadence)}, legs changed by {about.legDeg.toFixed(0)}° at the most
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
