'use client';
import { NumberField } from '@base-ui/react/number-field';
import { Box, Typography } from '@mui/material';
import { useState, type CSSProperties } from 'react';
import { readNumber } from './read-number';
import { chart } from './theme';

/**
 * A number with its unit: typed (also as a sum, `1.3*2`), stepped with the arrow keys (Shift ten times, Alt a tenth), or dragged by its unit or label.
 * It takes effect on Enter or when left, and is put back if it cannot be read.
 */
export function TypedNumber({
  name,
  label,
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
  /** Shown above the number, which then has the width of its place. */
  label?: string;
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
  // While it is dragged or a key is held only the field follows.
  const [held, setHeld] = useState<number | null>(null);
  const typed = draft === null ? value : readNumber(draft);
  const isBad = typed === null || typed < least || typed > most;
  const rounded = (next: number) => Number(Math.min(most, Math.max(least, next)).toFixed(digits));
  const put = (next: number) => {
    setHeld(null);
    if (rounded(next) !== rounded(value)) onChange(rounded(next));
  };
  const finish = () => {
    if (draft !== null && !isBad) put(typed);
    setDraft(null);
  };
  const grip = (words: string) => (
    <NumberField.ScrubArea style={{ cursor: 'ew-resize', userSelect: 'none' }} title="Drag to change">
      <Typography variant={words === label ? 'caption' : 'body2'} color="text.secondary" noWrap component="span">
        {words}
      </Typography>
    </NumberField.ScrubArea>
  );
  return (
    <NumberField.Root
      value={held ?? value}
      min={least}
      max={most}
      step={step}
      smallStep={step / 10}
      largeStep={step * 10}
      format={{ maximumFractionDigits: digits, useGrouping: false }}
      locale="en"
      onValueChange={(next) => next !== null && draft === null && setHeld(rounded(next))}
      onValueCommitted={(next) => next !== null && draft === null && put(next)}
      render={
        <Box
          sx={{
            display: label ? 'block' : 'inline-flex',
            width: label ? width : undefined,
            alignItems: 'baseline',
            gap: 0.5,
            justifySelf: label ? 'start' : 'end',
            minWidth: 0,
          }}
        />
      }
    >
      {label && grip(label)}
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.5, minWidth: 0 }}>
        <NumberField.Input
          aria-label={name}
          aria-invalid={isBad}
          title={isBad ? `From ${least} to ${most}.` : undefined}
          value={draft ?? String(rounded(held ?? value)).replace('-', '−')}
          style={looks(isBad, label ? '100%' : width)}
          onChange={(event) => {
            event.preventBaseUIHandler();
            setDraft(event.currentTarget.value);
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'ArrowUp' || event.key === 'ArrowDown') return finish();
            // What is typed is ours to read: the library takes digits only.
            event.preventBaseUIHandler();
            if (event.key === 'Enter') finish();
            if (event.key === 'Escape') setDraft(null);
          }}
          onBlur={(event) => {
            event.preventBaseUIHandler();
            finish();
          }}
        />
        {unit && grip(unit)}
      </Box>
    </NumberField.Root>
  );
}

const looks = (isBad: boolean, width: number | string): CSSProperties => ({
  width,
  minWidth: 0,
  padding: 0,
  font: 'inherit',
  fontSize: '0.9rem',
  lineHeight: 1.25,
  color: 'inherit',
  background: 'none',
  border: 0,
  borderBottom: `${isBad ? 2 : 1}px solid ${isBad ? chart('ink') : chart('rule')}`,
  textAlign: 'right',
  fontVariantNumeric: 'tabular-nums',
});
