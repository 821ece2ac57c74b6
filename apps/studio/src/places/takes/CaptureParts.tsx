'use client';
import type { SuitStatus } from '@lantern/capture';
import { Box, Slider, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { chart } from '@/controls/theme';

/** Minutes, seconds, tenths. */
export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}.${Math.floor((seconds * 10) % 10)}`;

/** One of the steps to a recording, numbered, ticked when it is done. */
export function DeskStep({
  n,
  title,
  isDone,
  isOff = false,
  children,
}: {
  n: number;
  title: string;
  isDone: boolean;
  isOff?: boolean;
  children: ReactNode;
}) {
  return (
    <Box component="section" aria-label={title} sx={{ borderTop: `1px solid ${chart('rule')}`, py: 1.2, opacity: isOff ? 0.55 : 1 }}>
      <Typography variant="h3" sx={{ mb: 0.8, fontWeight: 700 }}>
        <Box component="span" sx={{ color: 'text.secondary', mr: 1, fontWeight: 400 }}>
          {isDone ? '✓' : n}
        </Box>
        {title}
      </Typography>
      <Box sx={{ display: 'grid', gap: 1.1, justifyItems: 'start', '& > *': { maxWidth: '100%' } }}>{children}</Box>
    </Box>
  );
}

/** How much of a fault the suit has. */
export function Fault({
  label,
  value,
  most,
  step,
  unit,
  disabled,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  step: number;
  unit: string;
  disabled: boolean;
  onChange: (value: number) => void;
}) {
  const [held, setHeld] = useState<number | null>(null);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr 70px', alignItems: 'center', gap: 1.5 }}>
      <Typography variant="body2">{label}</Typography>
      <Slider
        size="small"
        aria-label={label}
        value={held ?? value}
        min={0}
        max={most}
        step={step}
        disabled={disabled}
        onChange={(_, v) => setHeld(v as number)}
        onChangeCommitted={(_, v) => {
          setHeld(null);
          onChange(v as number);
        }}
        sx={{ color: 'text.primary' }}
      />
      <Typography variant="body2" sx={{ textAlign: 'right' }}>
        {held ?? value} {unit}
      </Typography>
    </Box>
  );
}

/** Which sensors are heard. */
export function Sensors({ status }: { status: SuitStatus }) {
  const lost = status.sensors.filter(({ isHeard }) => !isHeard);
  return (
    <Box sx={{ mt: 1.5 }}>
      <Typography variant="body2" sx={{ fontWeight: 700 }} role="status">
        {lost.length === 0 ? `All ${status.sensors.length} sensors are heard` : `▲ ${lost.map(({ name }) => name).join(', ')} not heard`}
      </Typography>
      <Box
        component="ul"
        aria-label="Sensors"
        sx={{ m: 0, mt: 0.5, p: 0, listStyle: 'none', display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', columnGap: 1 }}
      >
        {status.sensors.map(({ name, isHeard }) => (
          <Typography key={name} component="li" variant="caption" noWrap sx={{ fontWeight: isHeard ? 400 : 700 }}>
            <span aria-hidden>{isHeard ? '● ' : '▲ '}</span>
            {name}
            {!isHeard && ' lost'}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}
