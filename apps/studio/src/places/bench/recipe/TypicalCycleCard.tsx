'use client';
import type { StrideTraces } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { Area, ComposedChart, Line, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { extent, FLUSH, PLAIN } from '@/controls/chart-look';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { CardProps } from './card-props';
import { Choose } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';

/** The average of several strides: a joint's height in each of them, the average with its spread, and each stride to leave out. */
export function TypicalCycleCard({ step, about: { traces, joints, joint, onJoint }, onChange }: CardProps<'typical-cycle'>) {
  const [near, setNear] = useState<number | null>(null);
  const counted = traces?.about.filter(({ isOut }) => !isOut).length ?? 0;
  const toggle = (stride: number) => {
    if (!traces) return;
    const out = traces.about.flatMap(({ isOut }, i) => (isOut ? [i] : []));
    const next = out.includes(stride) ? out.filter((i) => i !== stride) : [...out, stride].sort((a, b) => a - b);
    onChange({ ...step, exclude: next });
  };
  return (
    <StepCard
      step={step}
      onChange={onChange}
      figure={
        traces && (
          <Typography variant="body2">
            {counted} of {traces.about.length} strides
          </Typography>
        )
      }
    >
      <Choose label="shown" value={joint} options={Object.fromEntries(joints.map((name) => [name, name]))} onChange={onJoint} />
      {traces && (
        <>
          <Drawn traces={traces} near={near} />
          <Box role="group" aria-label="Strides" sx={{ gridColumn: '1 / -1', display: 'flex', flexWrap: 'wrap', gap: 0.4, mt: 0.3 }}>
            {traces.about.map(({ distanceCm, isOut, from }, i) => (
              <Box
                key={from}
                component="button"
                type="button"
                aria-pressed={!isOut}
                aria-label={`Stride ${i + 1}, ${distanceCm.toFixed(1)} cm from the average, ${isOut ? 'left out' : 'counts'}`}
                title={isOut ? 'left out; click to let it count' : 'counts; click to leave it out'}
                disabled={!isOut && counted <= 1}
                onClick={() => toggle(i)}
                onPointerEnter={() => setNear(i)}
                onPointerLeave={() => setNear(null)}
                sx={{
                  font: 'inherit',
                  fontSize: 13,
                  px: 0.6,
                  color: isOut ? 'text.secondary' : 'text.primary',
                  textDecoration: isOut ? 'line-through' : 'none',
                  bgcolor: near === i ? chart('lampSoft') : 'transparent',
                  border: `1px solid ${chart('rule')}`,
                  borderRadius: 0.8,
                  cursor: 'pointer',
                }}
              >
                {i + 1} · {distanceCm.toFixed(1)}
              </Box>
            ))}
          </Box>
          <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center' }}>
            <Typography variant="caption" color="text.secondary" sx={{ flex: 1 }}>
              stride · cm from the average
            </Typography>
            {step.exclude !== 'auto' && <Small onClick={() => onChange({ ...step, exclude: 'auto' })}>choose for me</Small>}
          </Box>
        </>
      )}
    </StepCard>
  );
}

/** Height over the cycle: the strides thin, those left out dashed, the average strong within its spread. */
function Drawn({ traces, near }: { traces: StrideTraces; near: number | null }) {
  const [low, high] = extent([...traces.strides, traces.average].flatMap((values) => [...values]));
  const widest = Math.max(...traces.spread) * 100;
  const points = Array.from(traces.average, (average, frame) => ({
    frame,
    average,
    spread: [average - traces.spread[frame], average + traces.spread[frame]],
    ...Object.fromEntries(traces.strides.map((values, i) => [`stride ${i + 1}`, values[frame]])),
  }));
  return (
    <Box
      sx={{ gridColumn: '1 / -1' }}
      role="img"
      aria-label={`Height of ${traces.joint} over the strides; spread at the most ${widest.toFixed(1)} cm`}
    >
      <ResponsiveContainer width="100%" height={84}>
        <ComposedChart data={points} margin={FLUSH}>
          <XAxis dataKey="frame" type="number" domain={[0, points.length - 1]} hide />
          <YAxis domain={[low, Math.max(high, low + 0.01)]} hide />
          <Area {...PLAIN} dataKey="spread" stroke="none" fill={chart('lampSoft')} fillOpacity={1} />
          {traces.about.map(({ from, isOut }, i) => (
            <Line
              {...PLAIN}
              key={from}
              dataKey={`stride ${i + 1}`}
              stroke={chart(near === i ? 'lamp' : 'faint')}
              strokeWidth={near === i ? 2.2 : 0.7}
              strokeDasharray={isOut ? '4 4' : undefined}
            />
          ))}
          <Line {...PLAIN} dataKey="average" stroke={chart('ink')} strokeWidth={1.8} />
        </ComposedChart>
      </ResponsiveContainer>
      <Typography variant="caption" color="text.secondary">
        height {(low * 100).toFixed(0)}–{(high * 100).toFixed(0)} cm; spread at the most {widest.toFixed(1)} cm
      </Typography>
    </Box>
  );
}
