'use client';
import { Sign } from '@/controls/Sign';
import CloseIcon from '@mui/icons-material/Close';
import type { RecipeStep, TimePin } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from '../recipe/card-props';
import { Choose, Label } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import { holdAt, pinsWith, pinsWithout } from './time-pins';

export type RetimeStep = Extract<RecipeStep, { kind: 'retime' }>;

const HOLD_SECONDS = 0.25;
/** Frames that no clip has. */
const FARTHEST = 100_000;
const PLACE = { least: 0, digits: 1, width: 48 } as const;

/** Time: a factor, a length, a cadence, pins and holds; the threads themselves are drawn on the deck. */
export function RetimeCard({ step, about, onChange }: CardProps<'retime'>) {
  const { cycle: frames, fps, others, sourceNow } = about;
  const untimed = about.measured?.steps[step.id]?.untimed;
  const by = step.cadence !== undefined ? 'cadence' : step.frames !== undefined ? 'frames' : 'factor';
  const bare = { ...step, cadence: undefined, frames: undefined, factor: 1 };
  const setBy = (next: typeof by) => {
    if (next === 'cadence') onChange({ ...bare, cadence: Math.round(untimed?.cadence ?? 110) });
    else if (next === 'frames') onChange({ ...bare, frames: frames ?? untimed?.frames ?? 60 });
    else onChange(bare);
  };
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose label="by" value={by} options={{ factor: 'a factor', frames: 'a length', cadence: 'a cadence' }} onChange={setBy} />
      <Label>{{ factor: 'as fast', frames: 'lasts', cadence: 'steps' }[by]}</Label>
      {by === 'factor' && (
        <TypedNumber
          name="Factor of time"
          value={step.factor}
          unit="×"
          least={0.1}
          most={10}
          step={0.05}
          onChange={(factor) => onChange({ ...step, factor })}
        />
      )}
      {by === 'frames' && (
        <TypedNumber
          name="Frames of the result"
          value={step.frames ?? 60}
          unit={`fr · ${((step.frames ?? 60) / fps).toFixed(2)} s`}
          least={2}
          most={100_000}
          digits={0}
          onChange={(value) => onChange({ ...step, frames: value })}
        />
      )}
      {by === 'cadence' && (
        <TypedNumber
          name="Cadence"
          value={step.cadence ?? 110}
          unit="a minute"
          least={10}
          most={400}
          digits={1}
          onChange={(cadence) => onChange({ ...step, cadence })}
        />
      )}
      {others.length > 0 && untimed && untimed.landings.length > 1 && (
        <Choose
          label="in step with"
          value=""
          options={{ '': 'no other clip', ...Object.fromEntries(others.map(({ id, name }) => [id, name])) }}
          onChange={(id) => id && about.onInStep(id, step, onChange)}
        />
      )}
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', mt: 0.3 }}>
        <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
          {step.pins.length === 0 ? 'no time pins' : `${step.pins.length} time ${step.pins.length === 1 ? 'pin' : 'pins'}`}
        </Typography>
        <Small name="Put a time pin at the playhead" onClick={() => onChange({ ...step, pins: pinsWith(step.pins, sourceNow()) })}>
          pin here
        </Small>
        <Small name="Hold the pose at the playhead" onClick={() => onChange(holdAt(step, sourceNow(), Math.round(HOLD_SECONDS * fps)))}>
          hold here
        </Small>
      </Box>
      {step.pins.map((pin, i) => (
        <PinRow
          key={`${i} ${pin.from} ${pin.to}`}
          index={i + 1}
          pin={pin}
          most={untimed?.frames ?? FARTHEST}
          onChange={(next) => onChange({ ...step, pins: next ? pinsWith(pinsWithout(step.pins, i), next) : pinsWithout(step.pins, i) })}
        />
      ))}
    </StepCard>
  );
}

interface PinProps {
  readonly index: number;
  readonly pin: TimePin;
  /** Last frame of the clip. */
  readonly most: number;
  /** Null takes it out. */
  readonly onChange: (pin: TimePin | null) => void;
}

/** A pin in figures: a frame of the clip, and the frame of the result at which it is. */
function PinRow({ index, pin, most, onChange }: PinProps) {
  return (
    <Box role="group" aria-label={`Time pin ${index}`} sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 0.8 }}>
      <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
        pin {index}
      </Typography>
      <TypedNumber
        {...PLACE}
        name={`Frame of time pin ${index}`}
        value={pin.from}
        most={most}
        onChange={(from) => onChange({ ...pin, from })}
      />
      <Typography variant="body2">→</Typography>
      <TypedNumber
        {...PLACE}
        name={`Place of time pin ${index}`}
        value={pin.to}
        most={FARTHEST}
        onChange={(to) => onChange({ ...pin, to })}
      />
      <Sign name={`Delete time pin ${index}`} size={16} onClick={() => onChange(null)}>
        <CloseIcon />
      </Sign>
    </Box>
  );
}
