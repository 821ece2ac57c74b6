'use client';
import { Box, Typography } from '@mui/material';
import { StepCard } from '@/controls/StepCard';
import type { CardProps } from './card-props';

/** Left becomes right. */
export function MirrorCard({ step, about: { unsure, pairs }, onChange }: CardProps<'mirror'>) {
  return (
    <StepCard
      step={step}
      onChange={onChange}
      figure={
        <Typography variant="body2" color="text.secondary">
          {unsure.length === 0 ? 'all joints paired' : `${unsure.length} not certain`}
        </Typography>
      }
    >
      {unsure.length > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
          ▲ {unsure.slice(0, 4).join('; ')}
          {unsure.length > 4 && ` and ${unsure.length - 4} more`}
        </Typography>
      )}
      <Box component="details" sx={{ gridColumn: '1 / -1', fontSize: '0.9rem', color: 'text.secondary' }}>
        <summary>{pairs.length} pairs</summary>
        {pairs.map((pair) => (
          <div key={pair}>{pair}</div>
        ))}
      </Box>
    </StepCard>
  );
}
