'use client';
import { InputAdornment, TextField } from '@mui/material';
import { useState } from 'react';

/** A number with its unit; takes effect on Enter or when left, and says when it is out of bounds. */
export function NumberField({
  label,
  unit,
  value,
  least,
  most,
  width = 190,
  onChange,
}: {
  label: string;
  unit: string;
  value: number;
  least: number;
  most: number;
  width?: number;
  onChange: (value: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const typed = draft === null ? value : Number(draft.replace(',', '.').replace('−', '-'));
  const isBad = !Number.isFinite(typed) || typed < least || typed > most || draft?.trim() === '';
  const finish = () => {
    if (draft !== null && !isBad && typed !== value) onChange(typed);
    setDraft(null);
  };
  return (
    <TextField
      label={label}
      value={draft ?? String(Number(value.toPrecision(7)))}
      error={isBad}
      helperText={isBad ? `From ${least} to ${most}.` : undefined}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') finish();
        if (event.key === 'Escape') setDraft(null);
      }}
      sx={{ width }}
      slotProps={{ htmlInput: { inputMode: 'decimal' }, input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } }}
    />
  );
}
