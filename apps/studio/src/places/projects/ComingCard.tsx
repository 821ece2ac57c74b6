'use client';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { Coming } from './use-comings';

/** A project that is on its way, with how much of it is done; or why it cannot come in. */
export function ComingCard({ coming, onDrop }: { coming: Coming; onDrop: () => void }) {
  const { name, share, says, problem, stop } = coming;
  return (
    <Box
      component="li"
      aria-label={name}
      sx={{ border: `1px dashed ${chart('rule')}`, borderRadius: 1, p: 1.6, display: 'grid', gap: 1, alignContent: 'center' }}
    >
      <Typography variant="h2" component="span" noWrap>
        {name}
      </Typography>
      {problem === null ? (
        <>
          <Typography variant="body2" color="text.secondary" role="status">
            {says}
          </Typography>
          <LinearProgress variant={share > 0 ? 'determinate' : 'indeterminate'} value={share * 100} aria-label={`${name} progress`} />
          <Button color="inherit" onClick={() => stop.abort()} sx={{ justifySelf: 'start' }}>
            Stop
          </Button>
        </>
      ) : (
        <>
          <Typography variant="body2" role="alert">
            <span aria-hidden>▲ </span>
            {problem} Nothing of it was stored.
          </Typography>
          <Button color="inherit" onClick={onDrop} sx={{ justifySelf: 'start' }}>
            Put it away
          </Button>
        </>
      )}
    </Box>
  );
}
