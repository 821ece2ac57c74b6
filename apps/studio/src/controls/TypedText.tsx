'use client';
import { Box, InputBase, Typography } from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import { chart } from './theme';

/** A field that takes effect on Enter or on leaving it; what cannot be read is put back. */
export function TypedText({
  label,
  value,
  placeholder,
  read,
  refuse,
  onChange,
  isTitle,
}: {
  label: string;
  value: string;
  placeholder?: string;
  read: (text: string) => string | null;
  /** Why a text cannot be taken. */
  refuse?: (text: string) => string | null;
  onChange: (text: string) => void;
  isTitle?: boolean;
}) {
  const [text, setText] = useState(value);
  const problem = text === value ? null : (refuse?.(text) ?? null);
  const commit = () => {
    const next = problem ? null : read(text);
    if (next !== null && next !== value) onChange(next);
    else setText(value);
  };
  return (
    <Box sx={{ flex: isTitle ? 1 : undefined, minWidth: 0 }}>
      <Typography
        variant="caption"
        color="text.secondary"
        noWrap
        component="div"
        sx={{ lineHeight: 1.15 }}
        role={problem ? 'alert' : undefined}
      >
        {problem ? `▲ ${problem}` : label.toLowerCase()}
      </Typography>
      <InputBase
        value={text}
        placeholder={placeholder}
        fullWidth
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event: KeyboardEvent<HTMLInputElement>) => {
          if (event.key === 'Enter' && event.target instanceof HTMLElement) event.target.blur();
          if (event.key === 'Escape') setText(value);
        }}
        inputProps={{ 'aria-label': label, 'aria-invalid': problem !== null }}
        sx={{
          fontSize: isTitle ? '1.05rem' : '0.95rem',
          fontWeight: isTitle ? 700 : 400,
          borderBottom: `1px solid ${chart(problem ? 'ink' : 'rule')}`,
          '& input': { p: 0, pb: 0.2, textOverflow: 'ellipsis' },
        }}
      />
    </Box>
  );
}
