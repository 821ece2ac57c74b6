'use client';
import type { HeldFigure } from '@lantern/motion';
import { Box } from '@mui/material';
import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';

const BAR = 38;

/** A figure over a hair-thin bar that ends where its bound is; out of bounds it is boxed, hatched and marked. */
export function HairFigure({ held, digits }: { held: HeldFigure; digits: number }) {
  const { value, counts, bound, isOut } = held;
  const share = counts === null || bound === null ? null : Math.min(1, counts / Math.max(1e-9, bound));
  return (
    <Box
      sx={{
        display: 'flex',
        flexDirection: 'column',
        alignItems: 'flex-end',
        borderRadius: 1,
        ...(isOut && {
          px: 0.6,
          mr: -0.6,
          border: `1.5px solid ${chart('ink')}`,
          backgroundImage: `repeating-linear-gradient(135deg, transparent 0 4px, ${chart('rule')} 4px 5px)`,
        }),
      }}
    >
      <Box
        component="span"
        sx={{ fontWeight: isOut ? 700 : 400, lineHeight: '22px', fontVariantNumeric: 'lining-nums tabular-nums', whiteSpace: 'nowrap' }}
      >
        {isOut && <span aria-label="out of bounds">▲ </span>}
        {value === null ? '–' : numeral(value, digits)}
      </Box>
      <Box
        aria-hidden
        sx={{
          width: BAR,
          height: 5,
          position: 'relative',
          borderBottom: `1px solid ${chart('rule')}`,
          visibility: share === null ? 'hidden' : 'visible',
        }}
      >
        <Box sx={{ position: 'absolute', left: 0, bottom: -1, height: 2, width: `${100 * (share ?? 0)}%`, bgcolor: chart('ink') }} />
        <Box sx={{ position: 'absolute', right: 0, bottom: -1, height: 5, width: '1px', bgcolor: chart('faint') }} />
      </Box>
    </Box>
  );
}
