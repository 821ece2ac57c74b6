'use client';
import { otherPart, partName, type Part } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';

/** Degrees about the axes of the world: to the left, up, to the front. */
export type Turn = [number, number, number];

const AXES = ['left', 'up', 'front'] as const;

interface Props {
  /** Before "about the axis to the left, degrees" in the names of the fields. */
  readonly name: string;
  readonly part: Part;
  readonly turn: Turn;
  readonly onTurn: (part: Part, turn: Turn) => void;
}

/** How a part is turned, an axis a field, and the same mirrored for its partner on the other side. */
export function TurnFields({ name, part, turn, onTurn }: Props) {
  const other = otherPart(part);
  return (
    <Box sx={{ display: 'flex', gap: 1.3, mt: 0.4, alignItems: 'baseline' }}>
      {AXES.map((axis, k) => (
        <Box key={axis} sx={{ display: 'flex', gap: 0.4, alignItems: 'baseline' }}>
          <Typography variant="body2" color="text.secondary">
            {axis}
          </Typography>
          <TypedNumber
            name={`${name} about the axis to the ${axis}, degrees`}
            value={turn[k]}
            unit="°"
            least={-180}
            most={180}
            step={5}
            digits={1}
            width={39}
            onChange={(v) => onTurn(part, turn.map((old, i) => (i === k ? v : old)) as Turn)}
          />
        </Box>
      ))}
      <Box sx={{ flex: 1 }} />
      {other !== part && (
        <Small name={`The same for the ${partName(other)}`} onClick={() => onTurn(other, [turn[0], 0 - turn[1], 0 - turn[2]])}>
          mirror
        </Small>
      )}
    </Box>
  );
}
