'use client';
import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';

/** Gait and direction in words. */
export function TagForm({ count, onApply }: { count: number; onApply: (tags: { gait?: string; direction?: string }) => void }) {
  const [gait, setGait] = useState('');
  const [direction, setDirection] = useState('');
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField label="Gait" value={gait} onChange={(event) => setGait(event.target.value)} helperText="empty: as it is in each" />
      <TextField
        label="Direction"
        value={direction}
        onChange={(event) => setDirection(event.target.value)}
        helperText="empty: as it is in each"
      />
      <Button
        variant="outlined"
        color="inherit"
        disabled={count === 0 || (gait.trim() === '' && direction.trim() === '')}
        onClick={() => onApply({ ...(gait.trim() && { gait: gait.trim() }), ...(direction.trim() && { direction: direction.trim() }) })}
      >
        Tag {count} {count === 1 ? 'clip' : 'clips'}
      </Button>
    </Box>
  );
}
