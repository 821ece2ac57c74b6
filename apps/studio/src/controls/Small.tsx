'use client';
import { ButtonBase, Typography } from '@mui/material';
import type { MouseEvent, ReactNode } from 'react';
import { chart } from './theme';

/** A quiet word that does something, for the edges of instruments. */
export function Small({
  children,
  onClick,
  name,
  pressed,
}: {
  children: ReactNode;
  onClick: (event: MouseEvent<HTMLElement>) => void;
  name?: string;
  /** Of a word that is on or off. */
  pressed?: boolean;
}) {
  return (
    <ButtonBase
      disableRipple
      aria-label={name}
      aria-pressed={pressed}
      onClick={onClick}
      sx={{
        fontFamily: 'inherit',
        fontSize: 13.5,
        px: 0.8,
        py: 0.2,
        borderRadius: 1,
        color: pressed ? chart('lampText') : 'text.secondary',
        fontWeight: pressed ? 700 : 400,
        '&:hover': { bgcolor: chart('card'), color: 'text.primary' },
      }}
    >
      <Typography component="span" sx={{ fontSize: 'inherit', fontWeight: 'inherit' }} noWrap>
        {children}
      </Typography>
    </ButtonBase>
  );
}
