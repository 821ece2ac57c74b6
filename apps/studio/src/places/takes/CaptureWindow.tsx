'use client';
import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { DUSK } from '@/controls/theme';
import { StageFrame } from '@/stage/StageFrame';
import { core } from '@/worker/core';
import { clock } from './CaptureParts';
import type { Suit } from './use-suit';

/** The performer as the suit has him, with the countdown and the time of the recording over him. */
export function CaptureWindow({ desk: { suit, status, motion }, children }: { desk: Suit; children?: ReactNode }) {
  const skeleton = suit?.skeleton;
  const { data: looks } = useQuery({
    queryKey: ['figure', skeleton?.joints.length, skeleton?.joints[0].offset],
    enabled: skeleton !== undefined,
    queryFn: () => (skeleton ? core().figure(skeleton) : null),
  });
  return (
    <Box sx={{ position: 'relative', minHeight: 0 }}>
      <StageFrame
        isLive
        stage={suit && motion && looks ? { motion, mesh: looks.mesh, markers: looks.markers, floor: 0 } : null}
        notice={suit ? undefined : <Typography>Connect the suit to see the performer here.</Typography>}
      />
      {children}
      {status?.phase === 'countdown' && (
        <Box
          role="timer"
          aria-live="assertive"
          sx={{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center', pointerEvents: 'none', color: DUSK.warm }}
        >
          <Typography sx={{ fontFamily: 'Alegreya', fontSize: 220, lineHeight: 1, textShadow: '0 0 40px #0E1D21' }}>
            {status.countdown}
          </Typography>
        </Box>
      )}
      {status?.phase === 'recording' && (
        <Box
          role="status"
          aria-label="Recording"
          sx={{
            position: 'absolute',
            top: 46,
            left: 16,
            display: 'flex',
            alignItems: 'center',
            gap: 1,
            color: DUSK.text,
            bgcolor: 'rgba(14,29,33,0.8)',
            px: 1.4,
            py: 0.5,
            borderRadius: 1,
          }}
        >
          <Box component="span" aria-hidden sx={{ width: 14, height: 14, bgcolor: '#d0342c', borderRadius: '50%' }} />
          <Typography sx={{ fontSize: 20, fontWeight: 700 }}>{clock(status.recordedSeconds)}</Typography>
        </Box>
      )}
    </Box>
  );
}
