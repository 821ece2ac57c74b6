'use client';
import DarkModeIcon from '@mui/icons-material/DarkModeOutlined';
import HelpIcon from '@mui/icons-material/HelpOutlineOutlined';
import LightModeIcon from '@mui/icons-material/LightModeOutlined';
import RedoIcon from '@mui/icons-material/Redo';
import SearchIcon from '@mui/icons-material/Search';
import UndoIcon from '@mui/icons-material/Undo';
import { Sign } from '@/controls/Sign';
import { Box, Link as MuiLink, Tooltip, Typography, useColorScheme } from '@mui/material';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { useClips } from '@/data/clips-store';
import type { SaveState } from '@/data/document-store';
import { useJoins } from '@/data/joins-store';
import { useProjectInfo } from '@/data/project';
import { useSets } from '@/data/sets-store';
import { LanternMark } from './LanternMark';
import { chart } from '../controls/theme';
import { useUndo } from './use-undo';

const SAVE_WORDS = {
  saved: 'all saved',
  unsaved: 'saving soon',
  saving: 'saving…',
  offline: 'not saved: no connection, trying again',
} as const;

const WORST_FIRST: readonly SaveState[] = ['offline', 'saving', 'unsaved'];

/** Project, character, what is open and its lamps; then saving, undo, find and help. */
export function TopBar({ open, onFind, onKeys }: { open: ReactNode; onFind: () => void; onKeys: () => void }) {
  const project = useProjectInfo();
  const states = [useClips((s) => s.state), useJoins((s) => s.state), useSets((s) => s.state)];
  const state = WORST_FIRST.find((own) => states.includes(own)) ?? 'saved';
  const { mode, setMode } = useColorScheme();
  const { undo, redo, canUndo, canRedo } = useUndo();
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
        <Tooltip title="All projects" describeChild>
          <MuiLink component={Link} href="/projects" color="inherit" underline="hover">
            {project.name}
          </MuiLink>
        </Tooltip>{' '}
        <Box component="span" sx={{ mx: 0.6, opacity: 0.5 }}>
          /
        </Box>{' '}
        {project.character}
      </Typography>
      <Box sx={{ flex: 1, minWidth: 0 }}>{open}</Box>
      <Typography variant="body2" color="text.secondary" role="status" aria-live="polite" noWrap>
        {SAVE_WORDS[state]}
      </Typography>
      <Box sx={{ display: 'flex', gap: 0.3 }}>
        <Sign name="Undo" keys="Ctrl Z" size={21} disabled={!canUndo} onClick={undo}>
          <UndoIcon />
        </Sign>
        <Sign name="Redo" keys="Ctrl Shift Z" size={21} disabled={!canRedo} onClick={redo}>
          <RedoIcon />
        </Sign>
        <Sign name="Find anything" keys="Ctrl K" size={21} onClick={onFind}>
          <SearchIcon />
        </Sign>
        <Sign name={mode === 'dark' ? 'Day chart' : 'Night chart'} size={21} onClick={() => setMode(mode === 'dark' ? 'light' : 'dark')}>
          {mode === 'dark' ? <LightModeIcon /> : <DarkModeIcon />}
        </Sign>
        <Sign name="Keys and help" keys="?" size={21} onClick={onKeys}>
          <HelpIcon />
        </Sign>
      </Box>
    </Box>
  );
}
