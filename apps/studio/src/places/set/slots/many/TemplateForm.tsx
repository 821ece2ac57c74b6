'use client';
import { aboutStep } from '@lantern/motion';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';

/** The steps of one clip for others, such as those of its gait. */
export function TemplateForm({ docs, count, onApply }: { docs: readonly ClipDoc[]; count: number; onApply: (from: ClipDoc) => void }) {
  const [id, setId] = useState(docs[0]?.id ?? '');
  const from = docs.find((doc) => doc.id === id);
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField select label="The recipe of" value={id} onChange={(event) => setId(event.target.value)} sx={{ width: 260 }}>
        {docs.map((doc) => (
          <MenuItem key={doc.id} value={doc.id}>
            {doc.name}
          </MenuItem>
        ))}
      </TextField>
      {from && (
        <Typography variant="body2" color="text.secondary">
          {from.steps.map(({ kind }) => aboutStep(kind).title).join(', ')}: each takes the place of the step of its kind, or is added. Other
          steps stay.
        </Typography>
      )}
      <Button variant="outlined" color="inherit" disabled={!from || count === 0} onClick={() => from && onApply(from)}>
        Give it to {count} {count === 1 ? 'clip' : 'clips'}
      </Button>
    </Box>
  );
}
