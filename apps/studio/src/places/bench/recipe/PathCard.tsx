'use client';
import type { PathParams } from '@lantern/motion';
import { Box } from '@mui/material';
import { Choose, Label, Share } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';

/** The path over the floor: straight, bent, drawn, or turned. */
export function PathCard({ step, about: { isDrawing, onDraw }, onChange }: CardProps<'path'>) {
  const setShape = (shape: PathParams['shape']) => {
    onDraw(shape === 'points');
    onChange({ ...step, shape });
  };
  return (
    <StepCard step={step} onChange={onChange}>
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
