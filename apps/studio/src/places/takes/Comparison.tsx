'use client';
import type { Standing } from '@lantern/motion';
import { Box, CircularProgress, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { usePlayer } from '@/data/player';
import { DUSK } from '@/controls/theme';
import { Choice } from '@/stage/Choice';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';

/** How two takes that are compared stand to each other. */
export type Stand = Standing | 'beside';
const STANDS: Readonly<Record<Stand, string>> = { captured: 'where captured', over: 'overlaid', beside: 'side by side' };

export type Compared = Awaited<ReturnType<ReturnType<typeof core>['compare']>>;

/** Two takes joint by joint, where both are open. */
export function useComparison(a: OpenTake | undefined, b: OpenTake | undefined, standing: Standing) {
  return useQuery({
    queryKey: ['comparison', a?.id, b?.id, standing],
    enabled: a !== undefined && b !== undefined,
    staleTime: Infinity,
    placeholderData: (before) => before,
    queryFn: () => core().compare(a?.id ?? '', b?.id ?? '', standing),
  }).data;
}

interface Props {
  readonly name: string;
  /** Undefined while it is worked out. */
  readonly comparison: Compared | undefined;
  readonly stands: Stand;
  readonly onStand: (stand: Stand) => void;
  readonly onDone: () => void;
}

/** Over the stage: the joints that are farthest apart between two takes, a click away each, and how the two stand. */
export function Comparison({ name, comparison, stands, onStand, onDone }: Props) {
  return (
    <Box
      role="region"
      aria-label="Comparison"
      sx={{
        position: 'absolute',
        right: 12,
        top: 44,
        width: 296,
        bgcolor: 'rgba(14,29,33,0.86)',
        color: DUSK.text,
        borderRadius: 1,
        p: 1.2,
      }}
    >
      <Typography variant="body2" noWrap>
        <Box component="span" aria-hidden sx={{ color: '#8fd0cb' }}>
          ■{' '}
        </Box>
        {name}
      </Typography>
      {comparison ? (
        <>
          {comparison.joints.slice(0, 5).map(({ joint, meanCm, worstCm, frame }) => (
            <Box
              key={joint}
              component="button"
              onClick={() => usePlayer.getState().seek(frame)}
              title="Go to where it is greatest"
              sx={{
                all: 'unset',
                cursor: 'pointer',
                display: 'flex',
                width: '100%',
                gap: 1,
                fontSize: 13.5,
                '&:hover': { color: DUSK.warm },
                '&:focus-visible': { outline: `1px solid ${DUSK.warm}` },
              }}
            >
              <Box component="span" sx={{ flex: 1 }}>
                {joint}
              </Box>
              <span>{meanCm.toFixed(1)}</span>
              <b style={{ width: 64, textAlign: 'right' }}>{worstCm.toFixed(1)} cm</b>
            </Box>
          ))}
          <Typography variant="caption" sx={{ opacity: 0.8 }}>
            mean and greatest distance of {comparison.joints.length} joints
          </Typography>
        </>
      ) : (
        <CircularProgress size={16} color="inherit" aria-label="Comparing" />
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', ml: -1 }} role="group" aria-label="How they stand">
        {(Object.keys(STANDS) as Stand[]).map((way) => (
          <Choice key={way} label={STANDS[way]} isOn={stands === way} onClick={() => onStand(way)} />
        ))}
      </Box>
      <Box sx={{ display: 'flex', ml: -1 }}>
        <Choice label="done" isOn={false} onClick={onDone} />
      </Box>
    </Box>
  );
}
