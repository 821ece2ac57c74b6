'use client';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import { pairsOf, type TakePair } from '@/data/delivery';
import type { TakeInfo } from '@/data/project';
import { DayDelivery } from './DayDelivery';

/** Says that takes have come in again under their names, and offers to put them in the place of the old ones. */
export function NewDeliveries({ takes }: { takes: readonly TakeInfo[] }) {
  const pairs = pairsOf(takes);
  const [asked, setAsked] = useState<readonly TakePair[] | null>(null);
  return (
    <>
      {pairs.length > 0 && (
        <Box role="status" sx={{ px: 1.5, py: 0.6, display: 'flex', alignItems: 'center', gap: 1, bgcolor: chart('lampSoft') }}>
          <Typography variant="body2" sx={{ flex: 1 }}>
            {pairs.length === 1
              ? `“${pairs[0].fresh.name}” is here twice: a new delivery?`
              : `${pairs.length} takes are here twice: new deliveries?`}
          </Typography>
          <Button variant="outlined" color="inherit" sx={{ py: 0, whiteSpace: 'nowrap' }} onClick={() => setAsked(pairs)}>
            see what changes…
          </Button>
        </Box>
      )}
      {asked && <DayDelivery pairs={asked} onClose={() => setAsked(null)} />}
    </>
  );
}
