'use client';
import { Box, InputBase, Typography } from '@mui/material';
import { useState } from 'react';
import { chart } from './theme';

/** A number in a line of a card: typed, or stepped with the arrow keys; takes effect on Enter or when left, and is put back if it cannot be read. */
export function TypedNumber({
  name,
  value,
  unit = '',
  least,
  most,
  step = 1,
  digits = 2,
  width = 58,
  onChange,
}: {
  /** For screen readers. */
  name: string;
  value: number;
  unit?: string;
  least: number;
  most: number;
  step?: number;
  digits?: number;
  width?: number;
  onChange: (value: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = Number(value.toFixed(digits));
  const read = (text: string) => Number(text.replace(',', '.').replace('−', '-'));
  const typed = draft === null ? value : read(draft);
  const isBad = draft !== null && (!Number.isFinite(typed) || typed < least || typed > most || draft.trim() === '');
  const put = (next: number) => {
    const bounded = Number(Math.min(most, Math.max(least, next)).toFixed(digits));
    if (bounded !== value) onChange(bounded);
  };
  const finish = () => {
    if (draft !== null && !isBad) put(typed);
    setDraft(null);
  };
  return (
    <Box sx={{ display: 'inline-flex', alignItems: 'baseline', gap: 0.5, justifySelf: 'end' }}>
      <InputBase
        value={draft ?? String(shown).replace('-', '−')}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={finish}
        title={isBad ? `From ${least} to ${most}.` : undefined}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') finish();
          if (event.key === 'Escape') setDraft(null);
          const by = { ArrowUp: step, ArrowDown: -step }[event.key];
          if (by !== undefined && !isBad) {
            event.preventDefault();
            setDraft(null);
            put(typed + by);
          }
        }}
        inputProps={{ 'aria-label': name, 'aria-invalid': isBad, inputMode: 'decimal' }}
        sx={{
          width,
          fontSize: '0.9rem',
          borderBottom: `${isBad ? 2 : 1}px solid ${isBad ? chart('ink') : chart('rule')}`,
          '& input': { textAlign: 'right', p: 0, fontVariantNumeric: 'tabular-nums' },
        }}
      />
      {unit && (
        <Typography variant="body2" color="text.secondary">
          {unit}
        </Typography>
      )}
    </Box>
  );
}
