'use client';
import { IconButton, Tooltip } from '@mui/material';
import type { MouseEvent, ReactNode } from 'react';

/** A sign that everyone knows, with its name for a screen reader and, with its key, in a tooltip. */
export function Sign({
  name,
  keys,
  disabled,
  pressed,
  expanded,
  size = 18,
  onClick,
  children,
}: {
  name: string;
  /** The key that does the same. */
  keys?: string;
  disabled?: boolean;
  /** Of a sign that stays down. */
  pressed?: boolean;
  /** Of a sign that opens something. */
  expanded?: boolean;
  /** Of the drawing, in pixels. */
  size?: number;
  onClick: (event: MouseEvent<HTMLElement>) => void;
  children: ReactNode;
}) {
  const button = (
    <IconButton
      size="small"
      aria-label={name}
      aria-pressed={pressed}
      aria-expanded={expanded}
      aria-keyshortcuts={keys}
      disabled={disabled}
      onClick={onClick}
      sx={{ p: 0.4, flexShrink: 0, color: 'text.secondary', '&:hover': { color: 'text.primary' }, '& svg': { fontSize: size } }}
    >
      {children}
    </IconButton>
  );
  // A disabled button does not hear the pointer, which a tooltip needs.
  return disabled ? button : <Tooltip title={keys ? `${name} (${keys})` : name}>{button}</Tooltip>;
}
