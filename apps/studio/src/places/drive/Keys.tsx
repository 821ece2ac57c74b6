'use client';
'use no memo';
import { Box } from '@mui/material';
import { DUSK } from '@/controls/theme';
import { helmOfKeys, type Helm } from './steering';

const KEYS = [
  ['w', 2, 1],
  ['a', 1, 2],
  ['s', 2, 2],
  ['d', 3, 2],
] as const;

/** The keys of the helm; they can be held by the pointer too. */
export function Keys({ held, onHold }: { held: ReadonlySet<string>; onHold: (helm: Helm) => void }) {
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 30px)', gridTemplateRows: 'repeat(2, 28px)', gap: 0.4 }}
      role="group"
      aria-label="Keys: W ahead, with Shift quicker, A and D turn, S about"
    >
      {KEYS.map(([key, column, row]) => (
        <Box
          key={key}
          component="button"
          aria-label={{ w: 'Ahead', a: 'To the left', s: 'About', d: 'To the right' }[key]}
          onPointerDown={() => onHold(helmOfKeys(new Set([key])))}
          onPointerUp={() => onHold({ x: 0, y: 0 })}
          onPointerLeave={(event) => event.buttons > 0 && onHold({ x: 0, y: 0 })}
          sx={{
            gridColumn: column,
            gridRow: row,
            border: `1px solid ${DUSK.text}`,
            borderRadius: 1,
            font: 'inherit',
            fontWeight: 600,
            bgcolor: held.has(key) ? DUSK.text : 'rgba(14,29,33,0.7)',
            color: held.has(key) ? DUSK.deep : DUSK.text,
            p: 0,
          }}
        >
          {key.toUpperCase()}
        </Box>
      ))}
    </Box>
  );
}
