'use client';
import { CHUNK_FRAMES } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import type { TakeInfo } from '@/data/project';
import { Small } from '@/controls/Small';
import type { Stretch } from '@/worker/open-source';

const SECONDS = 60;
const chunksOf = ({ fps }: TakeInfo) => Math.ceil((SECONDS * fps) / CHUNK_FRAMES);
const framesOf = (take: TakeInfo) => chunksOf(take) * CHUNK_FRAMES;

/** Of a long take a minute is seen and measured at a time; the whole of it is fitted by the queue. */
export const stretchOf = (take: TakeInfo, minute: number): Stretch | undefined =>
  take.long ? { from: minute * chunksOf(take), chunks: chunksOf(take) } : undefined;

/** The minute of a take in which a frame is, and the frame within it. */
export function inMinute(take: TakeInfo, frame: number): { readonly minute: number; readonly frame: number } {
  const minute = take.long ? Math.floor(frame / framesOf(take)) : 0;
  return { minute, frame: frame - minute * framesOf(take) };
}

/** Which minute of a long take is seen. */
export function MinuteMenu({ take, minute, onMinute }: { take: TakeInfo; minute: number; onMinute: (minute: number) => void }) {
  const minutes = Math.ceil(take.frames / framesOf(take));
  return (
    <Box role="group" aria-label="Part of the take" sx={{ display: 'flex', alignItems: 'baseline' }}>
      <Small name="The minute before" onClick={() => onMinute(Math.max(0, minute - 1))}>
        ‹
      </Small>
      <Typography variant="body2" color="text.secondary">
        minute {minute + 1} of {minutes}
      </Typography>
      <Small name="The next minute" onClick={() => onMinute(Math.min(minutes - 1, minute + 1))}>
        ›
      </Small>
    </Box>
  );
}
