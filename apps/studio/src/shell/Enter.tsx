'use client';
import { zodResolver } from '@hookform/resolvers/zod';
import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { fetchJson, RequestError } from '@/data/fetch-json';
import { behindTheDoor } from '@/data/door';
import { LanternMark } from './LanternMark';

const schema = z.object({ passphrase: z.string().min(1, 'Say the passphrase.') });

/** The door, where the application is served beyond its own machine. */
export function Enter() {
  const { register, handleSubmit, formState } = useForm({ resolver: zodResolver(schema), defaultValues: { passphrase: '' } });
  const [refusal, setRefusal] = useState<string | null>(null);
  const enter = handleSubmit(async ({ passphrase }) => {
    setRefusal(null);
    try {
      await fetchJson('/api/session', { method: 'POST', body: JSON.stringify({ passphrase }) });
      location.replace(behindTheDoor(location.search, location.origin));
    } catch (error) {
      setRefusal(error instanceof RequestError ? error.message : 'The server cannot be reached.');
    }
  });
  const problem = formState.errors.passphrase?.message ?? refusal;
  return (
    <Box sx={{ height: '100dvh', display: 'grid', placeItems: 'center', bgcolor: 'background.default' }}>
      <Box component="form" method="post" onSubmit={(event) => void enter(event)} noValidate sx={{ width: 320, display: 'grid', gap: 1.5 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <LanternMark />
          <Typography variant="h1">Old Lantern</Typography>
        </Box>
        <Typography variant="body2" color="text.secondary">
          This studio is open beyond its own machine and asks for its passphrase.
        </Typography>
        <TextField
          {...register('passphrase')}
          type="password"
          label="Passphrase"
          autoFocus
          autoComplete="current-password"
          error={problem !== null && problem !== undefined}
          helperText={problem}
          slotProps={{ formHelperText: { role: 'alert' } }}
        />
        <Button type="submit" variant="contained" size="large" disabled={formState.isSubmitting}>
          Come in
        </Button>
      </Box>
    </Box>
  );
}
