'use client';
import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

interface Props {
  readonly title?: string;
  /** Why nothing is here, and what to do about it. */
  readonly says: string;
  readonly role?: 'alert';
  /** The buttons that do it. */
  readonly children: ReactNode;
}

/** What a place shows when it has nothing to show. */
export function EmptyPlace({ title, says, role, children }: Props) {
  return (
    <Box role={role} sx={{ height: '100%', display: 'grid', placeItems: 'center', textAlign: 'center', bgcolor: 'background.default' }}>
      <Box>
        {title && (
          <Typography variant="h1" sx={{ mb: 1 }}>
            {title}
          </Typography>
        )}
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          {says}
        </Typography>
        {children}
      </Box>
    </Box>
  );
}
