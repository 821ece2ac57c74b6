'use client';
import FlagIcon from '@mui/icons-material/OutlinedFlag';
import StepIcon from '@mui/icons-material/StairsOutlined';
import CutIcon from '@mui/icons-material/ContentCut';
import CopyIcon from '@mui/icons-material/ContentCopy';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Typography } from '@mui/material';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { Joinery } from './use-joinery';

/** Over the deck: what is open, what can be done at the playhead, snapping and zoom. */
export function DeckHead({ joinery, onZoom, onWhole }: { joinery: Joinery; onZoom: (factor: number) => void; onWhole: () => void }) {
  const { doc, acts, chosen, snaps, setSnaps, view } = joinery;
  const count = doc?.pieces.length ?? 0;
  const has = count > 0;
  return (
    <Box
      role="toolbar"
      aria-label="Deck"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.6,
        px: 1.8,
        height: 36,
        flexShrink: 0,
        borderBottom: `1px solid ${chart('rule')}`,
        minWidth: 0,
      }}
    >
      <Typography variant="h2" noWrap sx={{ minWidth: 40 }}>
        {doc?.name}
      </Typography>
      <Typography variant="caption" color="text.secondary" noWrap sx={{ flex: 1, minWidth: 0, ml: 0.6 }}>
        {count === 1 ? '1 piece' : `${count} pieces`}
        {count > 1 && `, ${count - 1} ${count === 2 ? 'join' : 'joins'}`}
        {view && ` · ${((view.motion.frames - 1) / view.motion.fps).toFixed(2)} s`}
      </Typography>
      <Sign name="Cut the piece at the playhead" keys="X" disabled={!has} onClick={acts.split}>
        <CutIcon />
      </Sign>
      <Sign name="Mark at the playhead" keys="P" disabled={!has} onClick={acts.mark}>
        <FlagIcon />
      </Sign>
      <Sign name="Raise all from the playhead on" keys="U" disabled={!has} onClick={acts.raise}>
        <StepIcon />
      </Sign>
      <Sign name="Duplicate the chosen piece" keys="Ctrl D" disabled={chosen?.kind !== 'piece'} onClick={acts.duplicate}>
        <CopyIcon />
      </Sign>
      <Sign name="Take the chosen piece out" keys="Del" disabled={chosen?.kind !== 'piece'} onClick={acts.remove}>
        <DeleteIcon />
      </Sign>
      <Box sx={{ width: 6 }} />
      <Small pressed={snaps} onClick={() => setSnaps(!snaps)}>
        snap to footfalls
      </Small>
      <Small name="Zoom out" onClick={() => onZoom(1.5)}>
        −
      </Small>
      <Small name="Zoom in" onClick={() => onZoom(1 / 1.5)}>
        +
      </Small>
      <Small onClick={onWhole}>whole</Small>
    </Box>
  );
}
