'use client';
import { takeInfoSchema } from '@/http/project';
import { Box, Button, TextField, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { fetchAs } from '@/data/fetch-json';
import { projectKey, useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';

/** After a recording: a name, and whether it is kept. */
export function KeepRecording({
  suit,
  script,
  seconds,
  onSay,
  onDiscard,
}: {
  suit: string;
  script: string;
  seconds: number;
  onSay: (error: unknown) => void;
  onDiscard: () => void;
}) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { data } = useProjectData();
  const { enqueueSnackbar } = useSnackbar();
  const [name, setName] = useState(() => nextName(`wick-${script}`, data?.takes ?? []));
  const [isBusy, setBusy] = useState(false);
  const keep = async () => {
    setBusy(true);
    try {
      const take = await fetchAs(takeInfoSchema, `/api/suit/${suit}`, {
        method: 'POST',
        body: JSON.stringify({ action: 'keep', project: project.id, name }),
      });
      client.setQueryData<ProjectData>(projectKey(project.id), (old) => old && { ...old, takes: [...old.takes, take] });
      enqueueSnackbar(`“${take.name}” is in the library.`);
    } catch (error) {
      onSay(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, width: '100%' }}>
      <Typography variant="body2">
        Recorded <b>{seconds.toFixed(1)} s</b>. Keep it?
      </Typography>
      <TextField
        label="Name"
        value={name}
        autoFocus
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && void keep()}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" disabled={isBusy || name.trim() === ''} onClick={() => void keep()} sx={{ fontWeight: 700 }}>
          Keep
        </Button>
        <Button variant="outlined" color="inherit" disabled={isBusy} onClick={onDiscard}>
          Discard
        </Button>
      </Box>
    </Box>
  );
}

function nextName(stem: string, takes: readonly TakeInfo[]): string {
  for (let n = 1; ; n++) {
    const name = `${stem}-${String(n).padStart(2, '0')}`;
    if (!takes.some((take) => take.name === name)) return name;
  }
}
