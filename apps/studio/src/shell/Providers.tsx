'use client';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import { useState, type ReactNode } from 'react';
import { RequestError } from '@/data/fetch-json';
import { theme } from '../controls/theme';

/** A server or a database that is away comes back within a minute, as a rule; anything else is asked once more. */
const retry = (count: number, error: Error) => count < (error instanceof RequestError && [0, 503].includes(error.status) ? 30 : 1);

export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () => new QueryClient({ defaultOptions: { queries: { staleTime: 30_000, retry, retryDelay: 1500, refetchOnWindowFocus: false } } }),
  );
  return (
    <ThemeProvider theme={theme} defaultMode="light">
      <CssBaseline />
      <QueryClientProvider client={client}>
        <SnackbarProvider maxSnack={3} autoHideDuration={6000} anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}>
          {children}
        </SnackbarProvider>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
