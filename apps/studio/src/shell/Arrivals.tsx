'use client';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, LinearProgress, Paper, Typography } from '@mui/material';
import { memo } from 'react';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import type { Arrival } from './use-bring-in';

const WORDS: Record<Arrival['state'], string> = {
  waiting: 'waiting',
  sending: 'on its way',
  reading: 'being read',
  done: 'in',
  failed: '',
  stopped: 'stopped',
};

const OPEN: readonly Arrival['state'][] = ['waiting', 'sending', 'reading'];

/** What becomes of the files that come in, in a corner of the window. */
export function Arrivals({ arrivals, onClose }: { arrivals: readonly Arrival[]; onClose: () => void }) {
  if (arrivals.length === 0) return null;
  const isBusy = arrivals.some(({ state }) => OPEN.includes(state));
  const done = arrivals.filter(({ state }) => state === 'done').length;
  return (
    <Paper
      role="region"
      aria-label="Arriving takes"
      elevation={6}
      sx={{
        position: 'fixed',
        right: 16,
        bottom: 16,
        width: 400,
        maxHeight: 320,
        overflow: 'auto',
        zIndex: 1300,
        p: 1.5,
        border: `1px solid ${chart('rule')}`,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h3" sx={{ flex: 1 }} role="status">
          {isBusy
            ? `Bringing takes in: ${done} of ${arrivals.length}`
            : `${done} of ${arrivals.length} ${arrivals.length === 1 ? 'file' : 'files'} came in`}
        </Typography>
        {isBusy ? (
          <Button onClick={() => arrivals.forEach(({ stop }) => stop.abort())}>stop all</Button>
        ) : (
          <Sign name="Close" onClick={onClose}>
            <CloseIcon />
          </Sign>
        )}
      </Box>
      {[...arrivals].sort(byRank).map((arrival) => (
        <OneArrival key={arrival.id} {...arrival} />
      ))}
    </Paper>
  );
}

/** What went wrong first, then what is being done, what waits, and what is done. */
const RANK: Readonly<Record<Arrival['state'], number>> = { failed: 0, reading: 1, sending: 1, waiting: 2, stopped: 3, done: 3 };

const byRank = (a: Arrival, b: Arrival) => RANK[a.state] - RANK[b.state];

/** One of them; drawn anew only when something of it has changed, for there may be hundreds. */
const OneArrival = memo(function OneArrival({ name, share, state, problem, said, stop }: Arrival) {
  return (
    <Box sx={{ mt: 0.8 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Typography variant="body2" noWrap sx={{ flex: 1, fontWeight: 500 }}>
          {name}
        </Typography>
        <Typography variant="caption" color="text.secondary">
          {said ?? WORDS[state]}
        </Typography>
        {OPEN.includes(state) && (
          <Button sx={{ py: 0, minWidth: 0 }} onClick={() => stop.abort()}>
            stop
          </Button>
        )}
      </Box>
      {(state === 'sending' || state === 'reading') && (
        <LinearProgress
          variant={state === 'reading' && share === 0 ? 'indeterminate' : 'determinate'}
          value={share * 100}
          aria-label={`${name} progress`}
        />
      )}
      {problem && (
        <Typography variant="body2" role="alert">
          <span aria-hidden>▲ </span>
          {problem}
        </Typography>
      )}
    </Box>
  );
});
