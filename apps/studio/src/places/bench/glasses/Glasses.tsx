'use client';
import { Sign } from '@/controls/Sign';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { chart } from '@/controls/theme';
import type { OpenTake } from '@/worker/core.worker';
import type { GlassName } from '../PreviewBar';
import { RecurrenceMap } from './RecurrenceMap';
import { SeamLoupe } from './SeamLoupe';
import type { Cut } from '../use-bench';

/** The instruments that can lie on the stage, one at a time. */
export function Glasses({
  shown,
  take,
  cut,
  onCut,
  onClose,
}: {
  shown: GlassName | null;
  take: OpenTake;
  cut: Cut | null;
  onCut: (cut: Cut) => void;
  onClose: () => void;
}) {
  if (shown === 'map')
    return (
      <Glass name="Recurrence map" onClose={onClose}>
        <RecurrenceMap take={take} cut={cut} onCut={onCut} />
      </Glass>
    );
  if (shown === 'loupe' && cut)
    return (
      <Glass name="Seam loupe" onClose={onClose}>
        <SeamLoupe take={take} cut={cut} />
      </Glass>
    );
  return null;
}

/** A sheet of paper laid on the window's corner, with an instrument on it. */
function Glass({ name, onClose, children }: { name: string; onClose: () => void; children: ReactNode }) {
  return (
    <Box
      role="region"
      aria-label={name}
      sx={{
        position: 'absolute',
        right: 10,
        top: 44,
        p: 1,
        bgcolor: chart('paper'),
        border: `1px solid ${chart('rule')}`,
        borderRadius: 1,
        boxShadow: 3,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          {name}
        </Typography>
        <Sign name={`Close the ${name.toLowerCase()}`} onClick={onClose}>
          <CloseIcon />
        </Sign>
      </Box>
      {children}
    </Box>
  );
}
