'use client';
import { Box } from '@mui/material';
import { useCorrecting } from '@/data/correcting';
import { Choice } from '@/stage/Choice';

/** How a joint is taken hold of on the stage. */
export function HoldBar() {
  const mode = useCorrecting((state) => state.mode);
  return (
    <Box role="toolbar" aria-label="Take hold of a joint" sx={{ display: 'flex', mr: 1 }}>
      <Choice
        label="turn"
        title="Turn the joint by a ring (V)"
        isOn={mode === 'turn'}
        onClick={() => useCorrecting.setState({ mode: 'turn' })}
      />
      <Choice
        label="grab"
        title="Draw the joint to a place (V)"
        isOn={mode === 'grab'}
        onClick={() => useCorrecting.setState({ mode: 'grab' })}
      />
    </Box>
  );
}
