'use client';
import { Box, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';

/** Says under a list of contacts that they were set by hand, and offers to find them again. */
export const SetByHand = ({ onFind }: { onFind: () => void }) => (
  <Box sx={{ display: 'flex', alignItems: 'center', borderTop: `1px solid ${chart('rule')}` }}>
    <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
      contacts set by hand
    </Typography>
    <Small onClick={onFind}>find them again</Small>
  </Box>
);
