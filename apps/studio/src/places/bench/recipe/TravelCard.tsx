'use client';
import { Box, Typography } from '@mui/material';
import { Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { CardProps } from './card-props';
import { extent, FLUSH, PLAIN, TOOLTIP } from '@/controls/chart-look';
import { numeral } from '@/controls/Figure';
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
  const [low, high] = extent([...root, ...hips]);
  const spare = Math.max(0, least - (high - low)) / 2;
  const said = (v: number) => numeral(v, digits);
  return (
    <Box role="img" aria-label={`${name} of root and hips, from ${said(low)} to ${said(high)} ${unit}`}>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'flex', justifyContent: 'space-between', lineHeight: 1.2 }}>
        <span>{name.toLowerCase()}</span>
        <span>
          {said(low)}–{said(high)} {unit}
        </span>
      </Typography>
      <ResponsiveContainer width="100%" height={44}>
        <LineChart data={Array.from(root, (v, frame) => ({ frame, root: v, hips: hips[frame] }))} margin={FLUSH}>
          <XAxis dataKey="frame" type="number" domain={[0, root.length - 1]} hide />
          <YAxis domain={[low - spare, high + spare]} hide />
          <Tooltip {...TOOLTIP} labelFormatter={(frame) => `frame ${frame}`} formatter={(v, who) => [`${said(Number(v))} ${unit}`, who]} />
          <Line {...PLAIN} dataKey="hips" stroke={chart('faint')} strokeWidth={1} />
          <Line {...PLAIN} dataKey="root" stroke={chart('ink')} strokeWidth={2} />
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}
