'use client';
import { layerCourse, type Layer } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { Label } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { usePlayer } from '@/data/player';
import type { CorrectionsTools } from './corrections-context';
import { Knob } from './Knob';
import type { RowPlace } from './row-place';

type WeightKeys = Exclude<Layer['weight'], number>;

const withWeight = (keys: WeightKeys, frame: number, value: number): WeightKeys =>
  [...keys.filter((own) => own.frame !== frame), { frame, value: Math.min(1, Math.max(0, Number(value.toFixed(3)))) }].sort(
    (a, b) => a.frame - b.frame,
  );

/** A layer without the weight key of a frame; one that has no other is as it was there all the time. */
function withoutWeight(layer: Layer, keys: WeightKeys, frame: number): Layer {
  const left = keys.filter((own) => own.frame !== frame);
  return { ...layer, weight: left.length > 0 ? left : (keys[0]?.value ?? 1) };
}

/** The weight of the open layer as it goes over time: keyed at the playhead, or one for all frames. */
export function LayerWeight({ layer, tools, onChange }: { layer: Layer; tools: CorrectionsTools; onChange: (layer: Layer) => void }) {
  const frame = usePlayer(tools.frameNow);
  const { weight } = layer;
  const now = layerCourse(layer, tools.cycle).weight(frame);
  return (
    <>
      <Label>weight</Label>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', alignItems: 'center', gap: 0.6 }}>
        {typeof weight === 'number' ? (
          <>
            <Typography variant="body2">the same all the time</Typography>
            <Small name="Key the weight at the playhead" onClick={() => onChange({ ...layer, weight: [{ frame, value: weight }] })}>
              key it
            </Small>
          </>
        ) : (
          <>
            <Typography variant="body2" color="text.secondary">
              at {frame}
            </Typography>
            <TypedNumber
              name="Weight at the playhead, per cent"
              unit="%"
              value={now * 100}
              least={0}
              most={100}
              step={5}
              digits={0}
              width={44}
              onChange={(value) => onChange({ ...layer, weight: withWeight(weight, frame, value / 100) })}
            />
            <Small name="The same weight all the time" onClick={() => onChange({ ...layer, weight: Number(now.toFixed(3)) })}>
              keyed
            </Small>
          </>
        )}
      </Box>
    </>
  );
}

/** The keys of a layer's weight, on its ramp. */
export function WeightKnobs({
  layer,
  x,
  frameAt,
  foot,
  height,
  onPut,
}: Pick<RowPlace, 'x' | 'frameAt'> & {
  readonly layer: Layer;
  readonly foot: number;
  /** Pixels of the whole weight. */
  readonly height: number;
  readonly onPut: (layer: Layer, isDone: boolean) => void;
}) {
  const { weight } = layer;
  if (typeof weight === 'number') return null;
  return weight.map(({ frame, value }) => (
    <Knob
      key={frame}
      name={`Weight of ${layer.name} at frame ${frame}`}
      cx={x(frame)}
      cy={foot - value * height}
      value={value}
      says={`${Math.round(value * 100)} %`}
      step={0.05}
      isPale
      valuePerPixel={1 / height}
      frameAt={frameAt}
      onMove={(frames, by, isDone) => {
        const others = weight.filter((own) => own.frame !== frame);
        onPut({ ...layer, weight: withWeight(others, frame + frames, value + by) }, isDone);
      }}
      onDelete={() => onPut(withoutWeight(layer, weight, frame), true)}
    />
  ));
}
