'use client';
import type { StepOfKind } from '@lantern/motion';
import { Box, FormControlLabel, Switch } from '@mui/material';
import { Label, Share } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import type { CardProps } from './card-props';

type Factor = Exclude<keyof StepOfKind<'hips'>, 'id' | 'kind' | 'off' | Held>;
type Held = 'chest' | 'head' | 'hands';

/** Each movement of the hips, in the words that animators have for it. */
const FACTORS: readonly (readonly [Factor, string, string])[] = [
  ['sway', 'sway', 'From side to side'],
  ['bounce', 'bounce', 'Up and down'],
  ['surge', 'surge', 'Forwards and back'],
  ['list', 'list', 'One hip lower'],
  ['twist', 'twist', 'Turned left and right'],
  ['tilt', 'tilt', 'Tilted forwards and back'],
];
const HELD: readonly Held[] = ['chest', 'head', 'hands'];

/** The hips' own movement by factors, and what stays where it is. */
export function HipsCard({ step, onChange }: CardProps<'hips'>) {
  return (
    <StepCard step={step} onChange={onChange}>
      {FACTORS.map(([key, label, name]) => (
        <Share key={key} label={label} name={name} value={step[key]} most={2} onChange={(value) => onChange({ ...step, [key]: value })} />
      ))}
      <Label>stay</Label>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', justifyContent: 'flex-end', columnGap: 0.5 }}>
        {HELD.map((part) => (
          <FormControlLabel
            key={part}
            label={part}
            labelPlacement="start"
            control={<Switch size="small" color="default" checked={step[part]} onChange={(_, on) => onChange({ ...step, [part]: on })} />}
            sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: '0.9rem' } }}
          />
        ))}
      </Box>
    </StepCard>
  );
}
