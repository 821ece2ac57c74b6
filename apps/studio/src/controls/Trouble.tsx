'use client';
import { Button } from '@mui/material';
import { EmptyPlace } from './EmptyPlace';

/** Stands where something could not be read from the server, and says why. */
export function Trouble({ message, onRetry }: { message: string; onRetry: () => void }) {
  return (
    <EmptyPlace role="alert" says={message}>
      <Button variant="outlined" color="inherit" onClick={onRetry}>
        Try again
      </Button>
    </EmptyPlace>
  );
}
