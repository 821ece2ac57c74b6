'use client';
import { Box, Button, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';

/**
 * A part of a place that may fail by itself: then a sentence stands in its stead, with a button that tries again, and the rest of the
 * place goes on.
 *
 * @param name what it is, as in "the list of takes"
 */
export function Guarded({ name, children }: { name: string; children: ReactNode }) {
  return <ErrorBoundary fallbackRender={(failed) => <Failed name={name} {...failed} />}>{children}</ErrorBoundary>;
}

function Failed({ name, error, resetErrorBoundary }: FallbackProps & { name: string }) {
  return (
    <Box role="alert" sx={{ p: 2, height: '100%', overflow: 'auto', bgcolor: 'background.default' }}>
      <Typography sx={{ mb: 0.5 }}>▲ {name} cannot be shown.</Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1, overflowWrap: 'anywhere' }}>
        {error instanceof Error ? error.message : 'Something in it is not as it should be.'} Nothing is lost: it is stored as it was.
      </Typography>
      <Button variant="outlined" color="inherit" onClick={resetErrorBoundary}>
        Try again
      </Button>
    </Box>
  );
}
