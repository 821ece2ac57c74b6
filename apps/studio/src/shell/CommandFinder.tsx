'use client';
import { Autocomplete, Box, Dialog, TextField, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useCommands, type Command } from './commands';

/** Type to find anything that can be done or opened here. */
export function CommandFinder({ open, onClose }: { open: boolean; onClose: () => void }) {
  const byPlace = useCommands((state) => state.byPlace);
  const commands = useMemo(() => Object.values(byPlace).flat(), [byPlace]);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      slotProps={{ paper: { sx: { alignSelf: 'flex-start', mt: 10 } } }}
      aria-label="Find a command"
    >
      <Autocomplete<Command>
        open
        openOnFocus
        autoHighlight
        options={commands}
        getOptionLabel={(command) => command.label}
        getOptionKey={(command) => command.id}
        noOptionsText="Nothing here is called that"
        onChange={(_, command) => {
          onClose();
          command?.run();
        }}
        renderOption={({ key, ...props }, command) => (
          <Box component="li" key={key} {...props} sx={{ display: 'flex', gap: 2 }}>
            <span style={{ flex: 1 }}>{command.label}</span>
            {command.keys && (
              <Typography variant="caption" color="text.secondary">
                {command.keys}
              </Typography>
            )}
          </Box>
        )}
        renderInput={(params) => <TextField {...params} autoFocus placeholder="Find a command, a take or a clip" sx={{ p: 1.5 }} />}
      />
    </Dialog>
  );
}
