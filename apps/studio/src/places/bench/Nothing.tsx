'use client';
import { Box, Button, Typography } from '@mui/material';
import { EmptyPlace } from '@/controls/EmptyPlace';

const GONE = {
  clip: 'This clip is not in the project any more',
  source: 'What this clip is cut from is not in the project any more',
};

/** The bench without anything on it: says why, and where to go. */
export function Nothing({ gone, takes, project }: { gone: 'clip' | 'source' | null; takes: number; project: string }) {
  const says = gone
    ? 'It may have been removed; undo brings it back if that was here.'
    : takes === 0
      ? 'Bring a take in first; clips are cut from takes.'
      : 'Choose a take to cut from.';
  return (
    <EmptyPlace title={gone ? GONE[gone] : 'Nothing to cut yet'} says={says}>
      <Button variant="contained" size="large" href={`/${project}/takes`}>
        Go to the takes
      </Button>
    </EmptyPlace>
  );
}

/** A take of which no clip is open: what one does next. */
export function NoClip({ take, canOffer, onCut, onOffer }: { take: string; canOffer: boolean; onCut: () => void; onOffer: () => void }) {
  return (
    <Box>
      <Typography variant="h2">{take}</Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        No clip is open. Take a loop below, or cut one at the playhead.
      </Typography>
      <Button variant="outlined" color="inherit" onClick={onCut} title="N">
        Cut a clip at the playhead
      </Button>{' '}
      <Button variant="outlined" color="inherit" onClick={onOffer} disabled={!canOffer}>
        See what it offers
      </Button>
    </Box>
  );
}
