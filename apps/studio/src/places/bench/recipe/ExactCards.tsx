'use client';
import { Box, Typography } from '@mui/material';
import { Label } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';

/** Angles that games ask for, degrees. */
const USUAL = [45, 90, 135, 180];

/** A turn brought to exactly an angle. */
export function ExactTurnCard({ step, onChange }: CardProps<'exact-turn'>) {
  const side = step.turnDeg < 0 ? 'right' : 'left';
  return (
    <StepCard step={step} onChange={onChange}>
      <Label>turns {side}</Label>
      <TypedNumber
        name="Turn from the first frame to the last"
        value={step.turnDeg}
        unit="°"
        least={-720}
        most={720}
        step={5}
        digits={1}
        onChange={(turnDeg) => onChange({ ...step, turnDeg })}
      />
      <Label>to</Label>
      <Box sx={{ justifySelf: 'end', display: 'flex' }}>
        {USUAL.map((angle) => (
          <Small key={angle} name={`Turn by ${angle}°`} onClick={() => onChange({ ...step, turnDeg: side === 'left' ? angle : -angle })}>
            {angle}°
          </Small>
        ))}
      </Box>
    </StepCard>
  );
}

/** A start or a stop brought to exactly a distance. */
export function ExactDistanceCard({ step, onChange }: CardProps<'exact-distance'>) {
  return (
    <StepCard step={step} onChange={onChange}>
      <Label>goes</Label>
      <TypedNumber
        name="Distance from the first frame to the last"
        value={step.metres}
        unit="m"
        least={0.05}
        most={50}
        step={0.05}
        digits={2}
        onChange={(metres) => onChange({ ...step, metres })}
      />
      <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
        The difference comes while a foot is in the air; planted feet stay.
      </Typography>
    </StepCard>
  );
}
