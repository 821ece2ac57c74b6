'use client';
'use no memo';
import { Box, ButtonBase, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { DUSK } from '@/controls/theme';
import type { Camera } from '@/stage/quay/DriveStage';

/** A word over the dusk that does something. */
export function Word({ children, onClick, name, pressed }: { children: ReactNode; onClick: () => void; name?: string; pressed?: boolean }) {
  return (
    <ButtonBase
      disableRipple
      aria-label={name}
      aria-pressed={pressed}
      onClick={onClick}
      sx={{
        font: 'inherit',
        fontSize: 14,
        px: 0.8,
        py: 0.2,
        borderRadius: 1,
        color: pressed ? DUSK.warm : DUSK.text,
        fontWeight: pressed ? 700 : 400,
        whiteSpace: 'nowrap',
        '&:hover': { bgcolor: 'rgba(111,169,165,0.25)' },
      }}
    >
      {children}
    </ButtonBase>
  );
}

interface Props {
  readonly led: 'root' | 'capsule';
  readonly onLed: (led: 'root' | 'capsule') => void;
  readonly camera: Camera;
  readonly onCamera: (camera: Camera) => void;
  readonly speed: number;
  readonly onSpeed: (speed: number) => void;
  readonly isPlaying: boolean;
  readonly onPlay: () => void;
  readonly onStep: () => void;
  readonly onReset: () => void;
}

const CAMERAS: readonly (readonly [Camera, string, string])[] = [
  ['follow', 'follow', 'Follow him at a distance'],
  ['behind', 'behind', 'Over his shoulder'],
  ['quay', 'from the quay', 'Stand on the pavement and look after him'],
  ['free', 'free', 'Drag to go round him'],
];
const SPEEDS: readonly (readonly [number, string])[] = [
  [0.25, '¼×'],
  [0.5, '½×'],
  [1, '1×'],
];

/** Whom one follows, from where, and how fast time goes. */
export function TopBar({ led, onLed, camera, onCamera, speed, onSpeed, isPlaying, onPlay, onStep, onReset }: Props) {
  return (
    <Box
      sx={{
        position: 'absolute',
        left: 10,
        top: 8,
        px: 1,
        py: 0.3,
        borderRadius: 1,
        bgcolor: 'rgba(14,29,33,0.62)',
        display: 'flex',
        flexWrap: 'wrap',
        columnGap: 3,
        maxWidth: 'calc(100% - 380px)',
        alignItems: 'center',
        color: DUSK.text,
      }}
    >
      <Group name="led by">
        <Word name="Led by a capsule" pressed={led === 'capsule'} onClick={() => onLed('capsule')}>
          capsule
        </Word>
        <Word name="Led by the root" pressed={led === 'root'} onClick={() => onLed('root')}>
          root
        </Word>
      </Group>
      <Group name="camera">
        {CAMERAS.map(([own, words, title]) => (
          <Word key={own} name={title} pressed={camera === own} onClick={() => onCamera(own)}>
            {words}
          </Word>
        ))}
      </Group>
      <Group name="time">
        {SPEEDS.map(([own, words]) => (
          <Word key={own} name={`${words} speed`} pressed={isPlaying && speed === own} onClick={() => onSpeed(own)}>
            {words}
          </Word>
        ))}
        <Word name={isPlaying ? 'Pause' : 'Go on'} pressed={!isPlaying} onClick={onPlay}>
          {isPlaying ? 'pause' : 'go on'}
        </Word>
        <Word name="One step on" onClick={onStep}>
          step
        </Word>
        <Word name="Begin again" onClick={onReset}>
          begin again
        </Word>
      </Group>
    </Box>
  );
}

const Group = ({ name, children }: { name: string; children: ReactNode }) => (
  <Box sx={{ display: 'flex', alignItems: 'center' }} role="group" aria-label={name}>
    <Typography variant="body2" sx={{ color: '#a9c4bf', mr: 0.4, whiteSpace: 'nowrap' }}>
      {name}
    </Typography>
    {children}
  </Box>
);
