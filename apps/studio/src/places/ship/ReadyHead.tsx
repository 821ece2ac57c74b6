'use client';
import { Box, ButtonBase, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { ReadyClip } from './use-readiness';

/** Which clips are shown. */
export type ReadyFilter =
  { readonly kind: 'all' } | { readonly kind: 'not ready' } | { readonly kind: 'changed' } | { readonly kind: 'who'; readonly who: string };

export const isShown = (filter: ReadyFilter, { isReady, row, who }: ReadyClip): boolean => {
  switch (filter.kind) {
    case 'not ready':
      return !isReady;
    case 'changed':
      return row.since === 'changed' || row.since === 'new';
    case 'who':
      return who === filter.who;
    default:
      return true;
  }
};

/** Lamps that are drawn one by one; of more, a share is. */
const MOST_LAMPS = 24;

interface Props {
  readonly clips: readonly ReadyClip[];
  readonly open: number;
  readonly fps: number;
  readonly filter: ReadyFilter;
  readonly onFilter: (filter: ReadyFilter) => void;
}

/** How many are ready, a lamp for each, and which of them are shown. */
export function ReadyHead({ clips, open, fps, filter, onFilter }: Props) {
  const ready = clips.filter(({ isReady }) => isReady).length;
  const people = [...new Set(clips.map(({ who }) => who))];
  const counted = (own: ReadyFilter) => clips.filter((clip) => isShown(own, clip)).length;
  const filters: ReadyFilter[] = [
    { kind: 'all' },
    { kind: 'not ready' },
    { kind: 'changed' },
    ...(people.length > 1 ? people.map((who): ReadyFilter => ({ kind: 'who', who })) : []),
  ];
  const lamps = Math.min(clips.length, MOST_LAMPS);
  const lit = Math.floor((lamps * ready) / Math.max(1, clips.length));
  return (
    <Box>
      <Box sx={{ display: 'flex', alignItems: 'center', columnGap: 2.5, flexWrap: 'wrap' }}>
        <Typography variant="h1" aria-live="polite">
          {ready} of {clips.length} {clips.length === 1 ? 'is' : 'are'} ready
        </Typography>
        <Box aria-hidden sx={{ display: 'flex', gap: '4px', flexWrap: 'wrap' }}>
          {Array.from({ length: lamps }, (_, i) => (
            <Lamp key={i} isLit={i < lit} />
          ))}
        </Box>
        <Box role="group" aria-label="Which clips are shown" sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.2, ml: 'auto' }}>
          {filters.map((own) => {
            const isOn = own.kind === filter.kind && (own.kind !== 'who' || (filter.kind === 'who' && own.who === filter.who));
            const words = own.kind === 'who' ? own.who : own.kind;
            return (
              <ButtonBase
                key={words}
                disableRipple
                aria-pressed={isOn}
                onClick={() => onFilter(own)}
                sx={{
                  fontFamily: 'inherit',
                  fontSize: 14.5,
                  px: 0.6,
                  py: 0.4,
                  fontWeight: isOn ? 700 : 400,
                  borderBottom: `2.5px solid ${isOn ? chart('lamp') : 'transparent'}`,
                }}
              >
                {words} {counted(own)}
              </ButtonBase>
            );
          })}
        </Box>
      </Box>
      <Typography variant="body2" color="text.secondary">
        Every clip as it would leave at {fps} frames a second
        {open > 0 ? `. ${open} still being measured; then the worst come first.` : ', the worst first.'}
      </Typography>
    </Box>
  );
}

const Lamp = ({ isLit }: { isLit: boolean }) => (
  <Box
    sx={{
      width: 10,
      height: 10,
      borderRadius: '50%',
      border: `1.2px solid ${isLit ? chart('lampText') : chart('faint')}`,
      bgcolor: isLit ? chart('lamp') : undefined,
    }}
  />
);
