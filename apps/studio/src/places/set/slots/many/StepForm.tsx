'use client';
import { aboutStep, type RecipeStep, type RecipeStepInput, type StepKind } from '@lantern/motion';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { z } from 'zod';
import type { ClipDoc } from '@/data/clips-store';

/** The parameters of a step that are a number, a word or a switch. */
const plainParams = (step: RecipeStep): [string, string | number | boolean][] =>
  Object.entries(step).filter(
    (entry): entry is [string, string | number | boolean] =>
      !['id', 'kind', 'off'].includes(entry[0]) && ['string', 'number', 'boolean'].includes(typeof entry[1]),
  );

/** One parameter of a step that the clips have; the others stay as they are in each. */
export function StepForm({ docs, onApply }: { docs: readonly ClipDoc[]; onApply: (step: RecipeStepInput) => void }) {
  const steps = docs.flatMap((doc) => doc.steps);
  const kinds = [...new Set(steps.map(({ kind }) => kind))];
  const [kind, setKind] = useState<StepKind | ''>('');
  const [key, setKey] = useState('');
  const [text, setText] = useState('');
  const [refusal, setRefusal] = useState<string | null>(null);
  const own = kind !== '' && kinds.includes(kind) ? kind : kinds[0];
  const like = steps.find((step) => step.kind === own);
  const params = like ? plainParams(like) : [];
  const [param, value] = params.find(([name]) => name === key) ?? params[0] ?? ['', ''];
  const has = docs.filter((doc) => doc.steps.some((step) => step.kind === own)).length;
  if (docs.length === 0) return <Typography color="text.secondary">Choose some clips on the left.</Typography>;
  const read = () => (typeof value === 'number' ? Number(text) : typeof value === 'boolean' ? text === 'yes' : text);
  const isBad = text.trim() === '' || (typeof value === 'number' && !Number.isFinite(Number(text)));
  const write = (next: string) => {
    setText(next);
    setRefusal(null);
  };
  const apply = () => {
    try {
      onApply({ kind: own, [param]: read() } as RecipeStepInput);
    } catch (error) {
      setRefusal(whyRefused(error));
    }
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField
        select
        label="Step"
        value={own}
        onChange={(event) => (setKind(event.target.value as StepKind), write(''))}
        sx={{ width: 220 }}
      >
        {kinds.map((name) => (
          <MenuItem key={name} value={name}>
            {aboutStep(name).title}
          </MenuItem>
        ))}
      </TextField>
      {params.length > 0 ? (
        <>
          <TextField
            select
            label="What of it"
            value={param}
            onChange={(event) => (setKey(event.target.value), write(''))}
            sx={{ width: 220 }}
          >
            {params.map(([name]) => (
              <MenuItem key={name} value={name}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          {typeof value === 'boolean' ? (
            <TextField
              select
              label="is"
              value={text === '' ? (value ? 'yes' : 'no') : text}
              onChange={(event) => write(event.target.value)}
              sx={{ width: 220 }}
            >
              <MenuItem value="yes">yes</MenuItem>
              <MenuItem value="no">no</MenuItem>
            </TextField>
          ) : (
            <TextField
              label="is"
              value={text}
              placeholder={String(value)}
              error={refusal !== null}
              helperText={refusal}
              onChange={(event) => write(event.target.value)}
              sx={{ width: 220 }}
              slotProps={{ inputLabel: { shrink: true }, formHelperText: { role: 'alert' } }}
            />
          )}
          <Typography variant="body2" color="text.secondary">
            Only this changes. {has} of {docs.length} have the step; to the others it is added.
          </Typography>
          <Button variant="outlined" color="inherit" disabled={isBad} onClick={apply}>
            Set it on {docs.length} {docs.length === 1 ? 'clip' : 'clips'}
          </Button>
        </>
      ) : (
        <Typography variant="body2" color="text.secondary">
          This step has nothing that can be set on many clips: open one on the Bench.
        </Typography>
      )}
    </Box>
  );
}

/** Why a value is none that the step takes, in a sentence. */
function whyRefused(error: unknown): string {
  const issue = error instanceof z.ZodError ? error.issues[0] : undefined;
  if (issue?.code === 'too_small') return `It has to be ${issue.minimum} at the least.`;
  if (issue?.code === 'too_big') return `It has to be ${issue.maximum} at the most.`;
  if (issue?.code === 'invalid_value') return `It has to be one of these: ${issue.values.join(', ')}.`;
  return 'The step takes no such value.';
}
