'use client';
import { Box, Button, FormControlLabel, LinearProgress, MenuItem, Radio, RadioGroup, Switch, TextField, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { ShipChoice, ShipOutcome, ShipProgress } from './use-shipping';

export const RATES = [24, 30, 60, 120] as const;

export const many = (clips: number) => `${clips} ${clips === 1 ? 'clip' : 'clips'}`;

interface Props {
  readonly choice: ShipChoice;
  readonly onChoice: (choice: ShipChoice) => void;
  /** How many clips go, of how many. */
  readonly count: number;
  readonly all: number;
  readonly onOtherSides: () => void;
  readonly onShip: () => void;
  readonly progress: ShipProgress | null;
  readonly outcome: ShipOutcome | null;
}

/** What leaves: rate, files, and the act itself with its progress and outcome. */
export function Shipment({ choice, onChoice, count, all, onOtherSides, onShip, progress, outcome }: Props) {
  return (
    <Box
      component="aside"
      aria-label="Shipment"
      sx={{ borderLeft: `1px solid ${chart('rule')}`, p: 2, display: 'flex', flexDirection: 'column', gap: 1.5, overflow: 'auto' }}
    >
      <Typography variant="h2">Shipment</Typography>
      <TextField select label="Rate" value={choice.fps} onChange={(event) => onChoice({ ...choice, fps: Number(event.target.value) })}>
        {RATES.map((value) => (
          <MenuItem key={value} value={value}>
            {value} frames a second
          </MenuItem>
        ))}
      </TextField>
      <RadioGroup
        value={choice.oneFilePerClip ? 'each' : 'one'}
        onChange={(_, value) => onChoice({ ...choice, oneFilePerClip: value === 'each' })}
        aria-label="Files"
      >
        <FormControlLabel value="one" control={<Radio size="small" color="default" />} label="One GLB with all clips" />
        <FormControlLabel value="each" control={<Radio size="small" color="default" />} label="One GLB for each clip" />
      </RadioGroup>
      <FormControlLabel
        control={<Switch size="small" checked={choice.bvh} onChange={(_, bvh) => onChoice({ ...choice, bvh })} color="default" />}
        label="BVH of each clip too"
        sx={{ ml: -0.5, gap: 0.5 }}
      />
      <Typography variant="body2" color="text.secondary">
        One root joint above the hips, keys on whole frames, a loop’s last key equal to its first, a skin in the file.
      </Typography>
      <Button
        color="inherit"
        sx={{ alignSelf: 'flex-start', ml: -1 }}
        disabled={count === 0}
        aria-label={`Make the other side of ${many(count)}`}
        onClick={onOtherSides}
      >
        make the other side of {count === all ? 'all' : `these ${count}`}
      </Button>
      <Box sx={{ flex: 1 }} />
      {progress && (
        <Box role="status">
          <Typography variant="body2" noWrap>
            {progress.name ? `${progress.done + 1} of ${progress.of}: ${progress.name}` : 'Opening the takes'}
          </Typography>
          <LinearProgress
            variant={progress.of > 1 ? 'determinate' : 'indeterminate'}
            value={(100 * progress.done) / Math.max(1, progress.of)}
            aria-label="Shipping"
          />
        </Box>
      )}
      {outcome && (
        <Typography variant="body2" role={outcome.isProblem ? 'alert' : 'status'} sx={{ fontWeight: 500 }}>
          {outcome.isProblem && '▲ '}
          {outcome.text}
        </Typography>
      )}
      <Button variant="contained" size="large" disabled={count === 0 || progress !== null} onClick={onShip} sx={{ fontWeight: 700 }}>
        Ship {many(count)}
      </Button>
    </Box>
  );
}
