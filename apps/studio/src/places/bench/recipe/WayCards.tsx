'use client';
import type { RecipeStep } from '@lantern/motion';
import { Box, Slider, Typography } from '@mui/material';
import { useState } from 'react';
import { FigureValue } from '@/controls/Figure';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import { Choose, Label, StepCard } from '../../../controls/StepCard';

type Of<Kind extends RecipeStep['kind']> = Extract<RecipeStep, { kind: Kind }>;

/** A share from 0 to some most, dragged; it takes effect when let go. */
export function Share({
  label,
  name,
  value,
  most = 1,
  onChange,
}: {
  label: string;
  name: string;
  value: number;
  most?: number;
  onChange: (value: number) => void;
}) {
  const [dragged, setDragged] = useState<number | null>(null);
  const words = (v: number) => `${Math.round(v * 100)} %`;
  return (
    <>
      <Label>{label}</Label>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, pl: 1 }}>
        <Slider
          size="small"
          min={0}
          max={most}
          step={0.05}
          value={dragged ?? value}
          aria-label={name}
          color="secondary"
          getAriaValueText={words}
          onChange={(_, v) => setDragged(v)}
          onChangeCommitted={(_, v) => {
            setDragged(null);
            onChange(v);
          }}
          sx={{ color: chart('ink') }}
        />
        <Typography variant="body2" sx={{ whiteSpace: 'nowrap', minWidth: 40, textAlign: 'right' }}>
          {words(dragged ?? value)}
        </Typography>
      </Box>
    </>
  );
}

/** Left becomes right. */
export function MirrorCard({
  step,
  unsure,
  pairs,
  onChange,
}: {
  step: Of<'mirror'>;
  /** Joints whose partner is not certain, and why. */
  unsure: readonly string[];
  /** Every pair, with how certain it is. */
  pairs: readonly string[];
  onChange: (step: Of<'mirror'>) => void;
}) {
  return (
    <StepCard
      title="Mirror"
      step={step}
      onChange={onChange}
      figure={
        <Typography variant="body2" color="text.secondary">
          {unsure.length === 0 ? 'all joints paired' : `${unsure.length} not certain`}
        </Typography>
      }
    >
      {unsure.length > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
          ▲ {unsure.slice(0, 4).join('; ')}
          {unsure.length > 4 && ` and ${unsure.length - 4} more`}
        </Typography>
      )}
      <Box component="details" sx={{ gridColumn: '1 / -1', fontSize: '0.9rem', color: 'text.secondary' }}>
        <summary>{pairs.length} pairs</summary>
        {pairs.map((pair) => (
          <div key={pair}>{pair}</div>
        ))}
      </Box>
    </StepCard>
  );
}

/** Both halves of a cycle made alike. */
export function EvenOutCard({
  step,
  asymmetryCm,
  onChange,
}: {
  step: Of<'even-out'>;
  asymmetryCm: number | null | undefined;
  onChange: (step: Of<'even-out'>) => void;
}) {
  return (
    <StepCard
      title="Even out"
      step={step}
      onChange={onChange}
      figure={
        <>
          <Typography variant="body2" color="text.secondary">
            left to right&nbsp;
          </Typography>
          <FigureValue value={asymmetryCm ?? null} unit="cm" digits={1} />
        </>
      }
    >
      <Share label="by" name="How much is evened out" value={step.factor} onChange={(factor) => onChange({ ...step, factor })} />
    </StepCard>
  );
}

/** A cycle walked on. */
export function ExtendCard({
  step,
  metres,
  onChange,
}: {
  step: Of<'extend'>;
  /** Of the clip as it is now. */
  metres: number | undefined;
  onChange: (step: Of<'extend'>) => void;
}) {
  const byMetres = step.metres !== undefined;
  return (
    <StepCard title="Walk on" step={step} onChange={onChange} figure={<FigureValue value={metres ?? null} unit="m" digits={2} />}>
      <Choose
        label="for"
        value={byMetres ? 'metres' : 'cycles'}
        options={{ cycles: 'a number of cycles', metres: 'a distance' }}
        onChange={(by) => onChange({ ...step, metres: by === 'metres' ? Number((metres ?? 5).toFixed(2)) : undefined })}
      />
      <Label>{byMetres ? 'distance' : 'cycles'}</Label>
      {byMetres ? (
        <TypedNumber
          name="Distance to walk on"
          value={step.metres ?? 5}
          unit="m"
          least={0.1}
          most={500}
          step={0.5}
          onChange={(value) => onChange({ ...step, metres: value })}
        />
      ) : (
        <TypedNumber
          name="Cycles to walk on"
          value={step.cycles}
          least={1}
          most={200}
          digits={0}
          onChange={(cycles) => onChange({ ...step, cycles })}
        />
      )}
    </StepCard>
  );
}

/** The path over the floor: straight, bent, drawn, or turned. */
export function PathCard({
  step,
  turnDegS,
  isDrawing,
  onDraw,
  onChange,
}: {
  step: Of<'path'>;
  turnDegS: number | undefined;
  isDrawing: boolean;
  onDraw: (on: boolean) => void;
  onChange: (step: Of<'path'>) => void;
}) {
  const setShape = (shape: Of<'path'>['shape']) => {
    onDraw(shape === 'points');
    onChange({ ...step, shape });
  };
  return (
    <StepCard title="Path" step={step} onChange={onChange} figure={<FigureValue value={turnDegS ?? null} unit="°/s" digits={1} />}>
      <Choose
        label="goes"
        value={step.shape}
        options={{ straight: 'straight ahead', arc: 'round an arc', points: 'along a drawn path', turn: 'turned in all by' }}
        onChange={setShape}
      />
      {step.shape === 'arc' && (
        <>
          <Label>radius</Label>
          <Box sx={{ justifySelf: 'end', display: 'flex', gap: 0.5, alignItems: 'baseline' }}>
            <TypedNumber
              name="Radius of the arc"
              value={Math.abs(step.radius)}
              unit="m"
              least={0.2}
              most={1000}
              step={0.1}
              onChange={(value) => onChange({ ...step, radius: Math.sign(step.radius) * value })}
            />
            <Small
              name={`Bends ${step.radius > 0 ? 'left' : 'right'}; turn it over`}
              onClick={() => onChange({ ...step, radius: -step.radius })}
            >
              to the {step.radius > 0 ? 'left' : 'right'}
            </Small>
          </Box>
        </>
      )}
      {step.shape === 'turn' && (
        <>
          <Label>turn</Label>
          <TypedNumber
            name="Turn in all"
            value={step.turnDeg}
            unit="°"
            least={-1080}
            most={1080}
            step={5}
            digits={1}
            onChange={(turnDeg) => onChange({ ...step, turnDeg })}
          />
        </>
      )}
      {step.shape === 'points' && (
        <>
          <Label>
            {step.points.length} {step.points.length === 1 ? 'point' : 'points'}
          </Label>
          <Box sx={{ justifySelf: 'end', display: 'flex' }}>
            <Small onClick={() => onDraw(!isDrawing)}>{isDrawing ? 'done drawing' : 'draw on the floor'}</Small>
            {step.points.length > 0 && <Small onClick={() => onChange({ ...step, points: step.points.slice(0, -1) })}>take back</Small>}
            {step.points.length > 1 && <Small onClick={() => onChange({ ...step, points: [] })}>clear</Small>}
          </Box>
        </>
      )}
      {step.shape !== 'turn' && (
        <Share label="lean" name="Lean into the bend" value={step.lean} most={2} onChange={(lean) => onChange({ ...step, lean })} />
      )}
    </StepCard>
  );
}
