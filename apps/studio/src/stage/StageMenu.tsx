'use client';
import { Box, Checkbox, FormControlLabel, Popover, Radio, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { Choice } from './Choice';
import { toggleTrails, useStageOptions } from './stage-options';

const GHOSTS = [0, 2, 4, 6, 10, 20] as const;

/** What the stage shows besides the figure: footprints, bones, ghosts, trails. */
export function StageMenu({ joints }: { joints: readonly string[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [search, setSearch] = useState('');
  const { prints, bones, ghosts, trails, onQuay } = useStageOptions();
  const row = (label: string, checked: boolean, onChange: () => void) => (
    <FormControlLabel
      key={label}
      sx={{ display: 'flex', ml: 0, mr: 0 }}
      control={<Checkbox size="small" sx={{ p: 0.3, mr: 0.5 }} checked={checked} onChange={onChange} />}
      label={<Typography variant="body2">{label}</Typography>}
    />
  );
  return (
    <>
      <Choice label="show…" isOn={anchor !== null} onClick={(event) => setAnchor(event.currentTarget)} />
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { sx: { p: 1.5, width: 250 }, 'aria-label': 'What the stage shows', role: 'dialog' } }}
      >
        {row('footprints, with what they slid', prints, () => useStageOptions.setState({ prints: !prints }))}
        {row('bones instead of the body', bones, () => useStageOptions.setState({ bones: !bones }))}
        {row('the quay of Gullmouth behind it', onQuay, () => useStageOptions.setState({ onQuay: !onQuay }))}
        <Typography variant="body2" sx={{ mt: 1, fontWeight: 700 }}>
          Ghosts
        </Typography>
        <Box sx={{ display: 'flex', flexWrap: 'wrap' }} role="radiogroup" aria-label="Frames between ghosts">
          {GHOSTS.map((spacing) => (
            <FormControlLabel
              key={spacing}
              sx={{ ml: 0, mr: 1 }}
              control={
                <Radio
                  size="small"
                  sx={{ p: 0.3 }}
                  checked={ghosts === spacing}
                  onChange={() => useStageOptions.setState({ ghosts: spacing })}
                />
              }
              label={<Typography variant="body2">{spacing === 0 ? 'none' : `every ${spacing}`}</Typography>}
            />
          ))}
        </Box>
        <Typography variant="body2" sx={{ mt: 1, mb: 0.5, fontWeight: 700 }}>
          Trails
        </Typography>
        {joints.length > 12 && (
          <TextField
            placeholder="which joint"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            fullWidth
            slotProps={{ htmlInput: { 'aria-label': 'Search joints' } }}
          />
        )}
        <Box sx={{ maxHeight: 200, overflow: 'auto' }}>
          {joints
            .filter((joint) => joint.toLowerCase().includes(search.toLowerCase()))
            .map((joint) => row(joint, trails.includes(joint), () => toggleTrails([joint])))}
        </Box>
      </Popover>
    </>
  );
}
