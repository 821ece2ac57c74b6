'use client';
import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useProjectInfo } from '@/data/project';
import type { SetView } from '@/data/set-view';
import { editClips } from '../../set-edits';
import { namesBy } from './names-by';

/** Names after a pattern, of what is measured. */
export function NameForm({ docs, traits, onDone }: { docs: readonly ClipDoc[]; traits: SetView['traits']; onDone: () => void }) {
  const project = useProjectInfo();
  const [pattern, setPattern] = useState('{gait}-{direction}-{number}');
  const names = namesBy(pattern, docs, traits, project.character.toLowerCase());
  const apply = () => {
    const byId = new Map(docs.map(({ id }, i) => [id, names[i]]));
    editClips((own) => {
      const name = byId.get(own.id);
      return name === undefined || name === own.name ? own : { ...own, name };
    });
    onDone();
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField
        label="Pattern"
        value={pattern}
        onChange={(event) => setPattern(event.target.value)}
        helperText="{character}, {gait}, {direction}, {number}"
        sx={{ width: 300 }}
      />
      <Box component="ul" aria-label="New names" sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 180, overflow: 'auto', width: '100%' }}>
        {docs.map(({ id, name }, i) => (
          <Typography component="li" key={id} variant="body2" noWrap>
            {name} → <b>{names[i]}</b>
          </Typography>
        ))}
      </Box>
      <Button variant="outlined" color="inherit" disabled={docs.length === 0} onClick={apply}>
        Rename {docs.length} {docs.length === 1 ? 'clip' : 'clips'}
      </Button>
    </Box>
  );
}
