import type { Part } from '@lantern/motion';
import { Box } from '@mui/material';
import { hueOf } from './use-fit';

/** A part's hue; round for what is on the left, a diamond for the right, square in the middle. */
export function PartMark({ part }: { part: Part }) {
  return (
    <Box
      component="span"
      aria-hidden
      sx={{
        width: 11,
        height: 11,
        flex: 'none',
        borderRadius: part.startsWith('left') ? '50%' : 0,
        transform: part.startsWith('right') ? 'rotate(45deg) scale(0.85)' : undefined,
        bgcolor: hueOf(part),
      }}
    />
  );
}
