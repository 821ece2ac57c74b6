'use client';
import CheckIcon from '@mui/icons-material/Check';
import { Box, Tooltip, Typography } from '@mui/material';
import type { Guarantee } from '@lantern/motion';

/** What each promise is called where there is little room. */
const SHORT: Readonly<Record<Guarantee['id'], string>> = {
  root: 'one root at the origin',
  joints: 'same joints in every file',
  frames: 'whole frames',
  loops: 'last key equals first',
  scale: 'no scale keys',
  signs: 'one sign from key to key',
  names: 'unique, legal names',
  skin: 'skin and mesh',
  valid: 'validator silent',
  poses: 'poses read back',
};

/** What is promised of every shipment, as the last one kept it: checked on the bytes that were written. */
export function TripWires({ all }: { all: readonly Guarantee[] }) {
  const broken = all.filter(({ ok }) => !ok).length;
  return (
    <Box component="section" aria-label="Promises">
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3">Trip wires</Typography>
        <Typography variant="body2" color="text.secondary">
          {broken === 0 ? 'none touched' : `${broken} touched`}
        </Typography>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1 }}>
        {all.map(({ id, ok, what, found }) => (
          <Tooltip key={id} title={[`${what}.`, ...found.slice(0, 4)].join(' ')}>
            <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'center', fontSize: 13.5, minWidth: 0, fontWeight: ok ? 400 : 700 }}>
              {ok ? <CheckIcon titleAccess="holds" sx={{ fontSize: 15 }} /> : <span aria-label="broken">▲</span>}
              <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                {SHORT[id]}
              </Box>
            </Box>
          </Tooltip>
        ))}
      </Box>
    </Box>
  );
}
