'use client';
import { Box, Button, Link as MuiLink, Typography, useColorScheme } from '@mui/material';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { useClips } from '@/data/clips-store';
import { useProjectInfo } from '@/data/project';
import { LanternMark } from './LanternMark';
import { chart } from '../controls/theme';
import { useUndo } from './use-undo';

const SAVE_WORDS = {
  saved: 'all saved',
  unsaved: 'saving soon',
  saving: 'saving…',
  offline: 'not saved: no connection, trying again',
} as const;

/** Project, character, what is open and its lamps; then saving, undo, find and help. */
export function TopBar({ open, onFind, onKeys }: { open: ReactNode; onFind: () => void; onKeys: () => void }) {
  const project = useProjectInfo();
  const state = useClips((s) => s.state);
  const { mode, setMode } = useColorScheme();
  const { undo, redo, canUndo, canRedo } = useUndo();
  const small = { minWidth: 0, px: 1, color: 'text.primary' } as const;
  return (
    <Box
      component="header"
      sx={{
        gridArea: 'bar',
        display: 'flex',
        alignItems: 'center',
        gap: 1.2,
        px: 2,
        borderBottom: `1px solid ${chart('rule')}`,
        minWidth: 0,
      }}
    >
      <MuiLink
        component={Link}
        href={`/${project.id}/takes`}
        underline="none"
        color="inherit"
        sx={{ display: 'flex', alignItems: 'center', gap: 1.2 }}
      >
        <LanternMark />
        <Typography variant="h1" component="span" noWrap>
          Old Lantern
        </Typography>
      </MuiLink>
      <Typography color="text.secondary" noWrap sx={{ ml: 0.5 }}>
        {project.name}{' '}
        <Box component="span" sx={{ mx: 0.6, opacity: 0.5 }}>
          /
        </Box>{' '}
        {project.character}
      </Typography>
      <Box sx={{ flex: 1, minWidth: 0 }}>{open}</Box>
      <Typography variant="body2" color="text.secondary" role="status" aria-live="polite" noWrap>
        {SAVE_WORDS[state]}
      </Typography>
      <Button sx={small} disabled={!canUndo} onClick={undo} title="Ctrl Z">
        undo
      </Button>
      <Button sx={{ ...small, ml: -1 }} disabled={!canRedo} onClick={redo} title="Ctrl Shift Z">
        redo
      </Button>
      <Button sx={small} onClick={onFind} title="Ctrl K">
        find
      </Button>
      <Button sx={small} onClick={() => setMode(mode === 'dark' ? 'light' : 'dark')}>
        {mode === 'dark' ? 'day chart' : 'night chart'}
      </Button>
      <Button sx={small} onClick={onKeys} aria-label="Keys and help" title="?">
        ?
      </Button>
    </Box>
  );
}
