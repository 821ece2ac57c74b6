'use client';
import PauseIcon from '@mui/icons-material/Pause';
import PlayIcon from '@mui/icons-material/PlayArrow';
import { Sign } from '@/controls/Sign';
import { Box, Typography } from '@mui/material';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { SPEEDS, usePlayer } from '@/data/player';
import { DUSK } from '@/controls/theme';
import type { StageProps } from './stage-props';
import { Choice } from './Choice';
import { StageMenu } from './StageMenu';
import { useStageKeys } from './use-stage-keys';
import { useStageOptions } from './stage-options';
import { VIEW_WORDS, VIEWS, type View } from './views';

const Stage = dynamic(() => import('./Stage').then((module) => module.Stage), { ssr: false });

const SPEED_WORDS: Record<number, string> = { 0.25: '¼×', 0.5: '½×', 1: '1×', 2: '2×' };

/** The stage with its views, its speeds and what is said about the frame in it. */
export function StageFrame({
  stage,
  footer,
  notice,
  isLive = false,
}: {
  stage: Omit<StageProps, 'view' | 'showsPrints' | 'bones' | 'ghosts' | 'measuring' | 'onQuay'> | null;
  footer?: ReactNode;
  /** What is shown is happening now: there is nothing to play. */
  isLive?: boolean;
  notice?: ReactNode;
}) {
  const { view, prints, bones, ghosts, measuring, onQuay } = useStageOptions();
  // While another one is loaded, the drawing itself stays, unseen: it would be made ready anew otherwise.
  const [last, setLast] = useState(stage);
  if (stage && stage !== last) setLast(stage);
  const drawn = stage ?? last;
  const setView = (next: View) => useStageOptions.setState({ view: next });
  useStageKeys(setView);
  return (
    <Box
      sx={{ position: 'relative', height: '100%', bgcolor: DUSK.deep, color: DUSK.text, overflow: 'hidden', containerType: 'inline-size' }}
    >
      {drawn && (
        <Box sx={{ position: 'absolute', inset: 0 }} style={{ visibility: stage ? 'visible' : 'hidden' }}>
          <Stage {...drawn} view={view} showsPrints={prints} bones={bones} ghosts={ghosts} measuring={measuring} onQuay={onQuay} />
        </Box>
      )}
      {notice && (
        <Box sx={{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center', p: 4, textAlign: 'center' }}>{notice}</Box>
      )}
      {stage && (
        <>
          <Box role="toolbar" aria-label="View" sx={{ position: 'absolute', top: 8, left: 12, display: 'flex', gap: 0.5 }}>
            {VIEWS.map((name) => (
              <Choice key={name} label={name} title={VIEW_WORDS[name]} isOn={view === name} onClick={() => setView(name)} />
            ))}
            <Box sx={{ width: 10 }} />
            <Choice
              label="measure"
              title="Distance between two joints, or points of the floor"
              isOn={measuring}
              onClick={() => useStageOptions.setState({ measuring: !measuring })}
            />
            <StageMenu joints={stage.motion.skeleton.joints.map((joint) => joint.name)} />
          </Box>
          {!isLive && <Speeds />}
          <Box
            sx={{
              position: 'absolute',
              bottom: 0,
              left: 0,
              right: 0,
              px: 1.5,
              pt: 3,
              pb: 1,
              display: 'flex',
              alignItems: 'center',
              gap: 2,
              '@container (max-width: 680px)': { gap: 1 },
              // The floor's own numbers fade out under what is said here.
              background: `linear-gradient(transparent, ${DUSK.deep} 75%)`,
            }}
          >
            {!isLive && <PlayButton />}
            {footer}
          </Box>
        </>
      )}
    </Box>
  );
}

function Speeds() {
  const speed = usePlayer((state) => state.speed);
  const setSpeed = usePlayer((state) => state.setSpeed);
  return (
    <Box
      role="toolbar"
      aria-label="Speed"
      sx={{ position: 'absolute', top: 8, right: 12, display: 'flex', '@container (max-width: 610px)': { top: 36 } }}
    >
      {SPEEDS.map((value) => (
        <Choice key={value} label={SPEED_WORDS[value]} name={`speed ${value}`} isOn={speed === value} onClick={() => setSpeed(value)} />
      ))}
    </Box>
  );
}

function PlayButton() {
  const playing = usePlayer((state) => state.playing);
  const toggle = usePlayer((state) => state.toggle);
  return (
    <Box sx={{ flexShrink: 0, '& button': { color: playing ? DUSK.warm : DUSK.text } }}>
      <Sign name={playing ? 'Pause' : 'Play'} keys="Space" size={26} onClick={toggle}>
        {playing ? <PauseIcon /> : <PlayIcon />}
      </Sign>
    </Box>
  );
}

/** Text that follows the frame without rendering anything else anew. */
export function AtFrame({ children }: { children: (frame: number) => ReactNode }) {
  const frame = usePlayer((state) => Math.round(state.frame));
  return (
    <Typography component="span" variant="body2" sx={{ whiteSpace: 'nowrap' }}>
      {children(frame)}
    </Typography>
  );
}
