'use client';
import { ButtonBase } from '@mui/material';
import type { MouseEvent } from 'react';
import { DUSK } from '@/controls/theme';

/** A word that is on or off, on the dusk of the stage. */
export function Choice({
  label,
  isOn,
  onClick,
  name,
  title,
}: {
  label: string;
  isOn: boolean;
  onClick: (event: MouseEvent<HTMLElement>) => void;
  name?: string;
  title?: string;
}) {
  return (
    <ButtonBase
      disableRipple
      aria-pressed={isOn}
      aria-label={name}
      title={title}
      onClick={onClick}
      sx={{
        px: 0.9,
        py: 0.3,
        borderRadius: 1,
        fontFamily: 'inherit',
        fontSize: 14.5,
        whiteSpace: 'nowrap',
        color: isOn ? DUSK.warm : DUSK.text,
        fontWeight: isOn ? 700 : 400,
        '@container (max-width: 680px)': { px: 0.5 },
        '&:hover': { bgcolor: 'rgba(255,255,255,0.08)' },
      }}
    >
      {label}
    </ButtonBase>
  );
}
