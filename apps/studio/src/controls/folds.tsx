'use client';
import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { Sign } from './Sign';
import { chart } from './theme';

/** Which parts of the screen are folded, remembered in the browser. */
export const useFolds = create<{ readonly open: Readonly<Record<string, boolean>> }>()(
  persist(() => ({ open: {} }), { name: 'old-lantern.folds' }),
);

/** Opens or folds a part of the screen. */
export const setFold = (id: string, isOpen: boolean): void => void useFolds.setState(({ open }) => ({ open: { ...open, [id]: isOpen } }));

export function useFold(id: string, usual: boolean): readonly [boolean, (isOpen: boolean) => void] {
  const isOpen = useFolds((state) => state.open[id] ?? usual);
  return [isOpen, (next) => setFold(id, next)];
}

/** The sign that folds and unfolds; it points down while open. */
export function FoldButton({
  name,
  isOpen,
  disabled,
  onChange,
}: {
  /** What is folded. */
  name: string;
  isOpen: boolean;
  disabled?: boolean;
  onChange: (isOpen: boolean) => void;
}) {
  return (
    <Sign name={`${isOpen ? 'Fold' : 'Unfold'} ${name}`} disabled={disabled} expanded={isOpen} onClick={() => onChange(!isOpen)}>
      <ExpandMoreIcon sx={{ transform: isOpen ? 'none' : 'rotate(-90deg)', transition: 'transform 110ms' }} />
    </Sign>
  );
}

/** A part of a column under a heading, folded or open, and remembered so. */
export function Section({
  id,
  title,
  aside,
  isOpen: usual = true,
  children,
}: {
  id: string;
  title: string;
  aside?: ReactNode;
  /** Whether it is open before anybody has folded it. */
  isOpen?: boolean;
  children: ReactNode;
}) {
  const [isOpen, setOpen] = useFold(id, usual);
  return (
    <Box component="section" aria-label={title} sx={{ minWidth: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.4, borderBottom: `1px solid ${chart('rule')}`, mb: isOpen ? 0.6 : 0 }}>
        <FoldButton name={title.toLowerCase()} isOpen={isOpen} onChange={setOpen} />
        <Typography variant="h2" noWrap onClick={() => setOpen(!isOpen)} sx={{ flex: 1, cursor: 'pointer' }}>
          {title}
        </Typography>
        {aside}
      </Box>
      {isOpen && children}
    </Box>
  );
}
