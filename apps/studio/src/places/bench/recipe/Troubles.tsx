'use client';
import { Typography } from '@mui/material';
import type { StepMeasured } from '@/worker/core.worker';

/** What of a step cannot be done on its clip, in a card of two columns. */
export function Troubles({ of }: { of: StepMeasured | undefined }) {
  return (of?.troubles ?? []).map((sentence) => (
    <Typography key={sentence} role="alert" variant="body2" sx={{ gridColumn: '1 / -1' }}>
      ▲ {sentence}
    </Typography>
  ));
}
