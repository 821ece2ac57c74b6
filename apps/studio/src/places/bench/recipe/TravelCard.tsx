'use client';
import { Box, Typography } from '@mui/material';
import type { CardProps } from './card-props';
import { chart } from '@/controls/theme';
import { Choose } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';

const WHERE = { root: 'to the root', body: 'stays in the body', drop: 'dropped' } as const;

/** What of the way goes to the root, and the root's speed and heading over those of the hips. */
export function TravelCard({ step, about, onChange }: CardProps<'travel'>) {
  const figures = about.measured?.figures;
  const traces = about.measured?.traces;
  return (
    <StepCard step={step} onChange={onChange}>
      {(['forward', 'sideways', 'heading', 'height'] as const).map((part) => (
        <Choose key={part} label={part} value={step[part]} options={WHERE} onChange={(value) => onChange({ ...step, [part]: value })} />
      ))}
      <Choose
        label="way of"
        value={step.of}
        options={{ hips: 'the hips', mass: 'the centre of mass', feet: 'the feet' }}
        onChange={(of) => onChange({ ...step, of })}
      />
      <Choose
        label="made"
        value={step.smooth}
        options={{ auto: 'even if it loops', even: 'even', stride: 'smooth over a stride', captured: 'as captured' }}
        onChange={(smooth) => onChange({ ...step, smooth })}
      />
      <Choose
        label="starts"
        value={step.start}
        options={{ origin: 'at the origin, facing forward', captured: 'where it was captured' }}
        onChange={(start) => onChange({ ...step, start })}
      />
      {traces && (
        <Box sx={{ gridColumn: '1 / -1', mt: 0.4 }}>
          <Over name="Speed" unit="m/s" root={traces.rootSpeed} hips={traces.hipsSpeed} least={0.3} digits={2} />
          <Over name="Heading" unit="°" root={traces.rootHeading} hips={traces.hipsHeading} least={12} digits={0} />
          {figures && (
            <Typography variant="caption" color="text.secondary">
              root strong, hips thin; {figures.distanceM.toFixed(2)} m {figures.loop ? 'a cycle' : 'in all'}, ripple{' '}
              {figures.rippleMps.toFixed(2)} m/s
            </Typography>
          )}
        </Box>
      )}
    </StepCard>
  );
}

const WIDTH = 330;
const HEIGHT = 54;
/** For the words above the traces. */
const HEAD = 14;

/** The root's trace over that of the hips, on one scale. */
function Over({
  name,
  unit,
  root,
  hips,
  least,
  digits,
}: {
  name: string;
  unit: string;
  root: Float32Array;
  hips: Float32Array;
  /** Smallest range that fills the height. */
  least: number;
  digits: number;
}) {
  let low = Infinity;
  let high = -Infinity;
  for (const values of [root, hips])
    for (const v of values) {
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
  const range = Math.max(least, high - low);
  const bottom = (low + high - range) / 2;
  const line = (values: Float32Array) =>
    Array.from(values, (v, f) => {
      const x = (f / Math.max(1, values.length - 1)) * WIDTH;
      return `${f ? 'L' : 'M'}${x.toFixed(1)} ${(HEIGHT - 4 - ((v - bottom) / range) * (HEIGHT - HEAD - 8)).toFixed(1)}`;
    }).join('');
  const said = (v: number) => v.toFixed(digits).replace('-', '−');
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      role="img"
      aria-label={`${name} of root and hips, from ${said(low)} to ${said(high)} ${unit}`}
      style={{ display: 'block', borderBottom: `1px solid ${chart('rule')}` }}
    >
      <path d={line(hips)} fill="none" stroke={chart('faint')} strokeWidth={1} />
      <path d={line(root)} fill="none" stroke={chart('ink')} strokeWidth={2} />
      <text x={2} y={11} fontSize={11} fill={chart('faint')}>
        {name.toLowerCase()}
      </text>
      <text
        x={WIDTH - 2}
        y={11}
        fontSize={11}
        fill={chart('faint')}
        textAnchor="end"
        stroke={chart('card')}
        strokeWidth={3}
        paintOrder="stroke"
      >
        {said(low)}–{said(high)} {unit}
      </text>
    </svg>
  );
}
