'use client';
import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { chart } from '@/controls/theme';

/** A button that looks like a word in a sentence. */
export const LinkButton = ({ onClick, children }: { onClick: () => void; children: ReactNode }) => (
  <Box
    component="button"
    onClick={onClick}
    sx={{
      border: 0,
      background: 'none',
      p: 0,
      font: 'inherit',
      fontSize: 14,
      fontWeight: 600,
      color: chart('lampText'),
      cursor: 'pointer',
      textAlign: 'left',
      '&:hover': { textDecoration: 'underline' },
    }}
  >
    {children}
  </Box>
);
