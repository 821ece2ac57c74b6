'use client';
import { Box, Tooltip, Typography } from '@mui/material';
import { BOUNDS, isOut, type Bounded } from '@/data/bounds';
import { chart } from './theme';

const MINUS = '\u2212';

/** A number with a true minus sign. */
export const numeral = (value: number, digits: number): string => {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? MINUS + text : text;
};

/** A labelled figure with its unit; out of bounds it is hatched, marked with a triangle, and says what to do. */
export function Figure({
  label,
  value,
  unit,
  digits = 1,
  bound,
}: {
  label: string;
  value: number | null | undefined;
  unit: string;
  digits?: number;
  bound?: Bounded;
}) {
  const out = bound !== undefined && value !== null && value !== undefined && isOut(bound, value);
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'baseline',
        gap: 1,
        borderBottom: `1px solid ${chart('rule')}`,
        py: 0.25,
      }}
    >
      <Typography variant="body2" color="text.secondary">
        {label}
      </Typography>
      <FigureValue value={value} unit={unit} digits={digits} out={out} todo={out && bound ? BOUNDS[bound].todo : undefined} />
    </Box>
  );
}

export function FigureValue({
  value,
  unit,
  digits = 1,
  out,
  todo,
}: {
  value: number | null | undefined;
  unit: string;
  digits?: number;
  out?: boolean;
  todo?: string;
}) {
  if (value === null || value === undefined || !Number.isFinite(value))
    return (
      <Typography variant="body2" component="span">
        –
      </Typography>
    );
  const text = (
    <Typography
      variant="body2"
      component="span"
      sx={{
        fontWeight: 700,
        whiteSpace: 'nowrap',
        px: out ? 0.5 : 0,
        backgroundImage: out ? `repeating-linear-gradient(135deg, transparent 0 4px, ${chart('rule')} 4px 5px)` : 'none',
      }}
    >
      {out && <span aria-label="out of bounds">▲ </span>}
      {numeral(value, digits)}
      {unit && ` ${unit}`}
    </Typography>
  );
  return todo ? <Tooltip title={todo}>{text}</Tooltip> : text;
}
