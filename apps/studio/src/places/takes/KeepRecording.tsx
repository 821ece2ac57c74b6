'use client';
import { takeInfoSchema } from '@/http/project';
import { Box, Button, TextField, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { fetchAs } from '@/data/fetch-json';
import { projectKey, useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';

const named = z.object({ name: z.string().trim().min(1, 'A take needs a name.').max(120, 'No more than 120 letters.') });
type Named = z.infer<typeof named>;

/** After a recording: a name, and whether it is kept. */
export function KeepRecording({
  suit,
  script,
  seconds,
  onSay,
  onKept,
  onDiscard,
}: {
  suit: string;
  script: string;
  seconds: number;
  onSay: (error: unknown) => void;
  onKept: (take: TakeInfo) => void;
  onDiscard: () => void;
}) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { data } = useProjectData();
  const { enqueueSnackbar } = useSnackbar();
  const { register, handleSubmit, formState } = useForm<Named>({
    resolver: zodResolver(named),
    defaultValues: { name: nextName(`wick-${script}`, data?.takes ?? []) },
    mode: 'onChange',
  });
  const { isSubmitting, isValid, errors } = formState;
  const keep = handleSubmit(async ({ name }) => {
    try {
      const body = JSON.stringify({ action: 'keep', project: project.id, name });
      const take = await fetchAs(takeInfoSchema, `/api/suit/${suit}`, { method: 'POST', body });
      client.setQueryData<ProjectData>(projectKey(project.id), (old) => old && { ...old, takes: [...old.takes, take] });
      enqueueSnackbar(`“${take.name}” is in the library.`);
      onKept(take);
    } catch (error) {
      onSay(error);
    }
  });
  return (
    <Box component="form" onSubmit={keep} sx={{ display: 'grid', gap: 1, width: '100%' }}>
      <Typography variant="body2">
        Recorded <b>{seconds.toFixed(1)} s</b>. Keep it?
      </Typography>
      <TextField label="Name" autoFocus error={!isValid} helperText={errors.name?.message} {...register('name')} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" type="submit" disabled={isSubmitting || !isValid} sx={{ fontWeight: 700 }}>
          Keep
        </Button>
        <Button variant="outlined" color="inherit" disabled={isSubmitting} onClick={onDiscard}>
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
