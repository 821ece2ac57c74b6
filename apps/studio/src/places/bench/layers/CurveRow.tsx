'use client';
import { withKey, type Layer, type LayerKey } from '@lantern/motion';
import { useMemo, useState } from 'react';
import { chart } from '@/controls/theme';
import { numeral } from '@/controls/Figure';
import { tracePath } from '@/timeline/paths';
import type { Bend } from '@/worker/core.worker';
import { Knob } from './Knob';
import type { RowPlace } from './row-place';

/** About which line of the rest pose a curve turns. */
export const LINES = ['about the left', 'about up', 'about the front'] as const;
/** Degrees that a curve's row spans at the least. */
const LEAST = 12;

interface Props extends RowPlace {
  readonly joint: string;
  readonly bend: Bend;
  readonly layer: Layer;
  readonly onPut: (layer: Layer, isDone: boolean) => void;
}

/** How the joint that is taken hold of turns: captured thin, corrected strong; the open layer's keys of it are dragged in time and value. */
export function CurveRow({ joint, bend, layer, x, frameAt, y, height, x0, width, onPut }: Props) {
  const liveliest = useMemo(() => liveliestOf(bend), [bend]);
  const [chosen, setLine] = useState<number | null>(null);
  const line = chosen ?? liveliest;
  const [before, after] = useMemo(() => [bend.before, bend.after].map((values) => columnOf(values, line)), [bend, line]);
  const { low, high } = useMemo(() => rangeOf([before, after]), [before, after]);
  const at = (degrees: number) => y + height - 6 - ((degrees - low) / (high - low)) * (height - 22);
  const shared = [0, before.length - 1, width, x, at] as const;
  const keys = layer.keys.filter((key) => key.joint === joint);
  return (
    <g role="group" aria-label={`Curve of ${joint}`}>
      <line x1={x0} x2={x0 + width} y1={y + height} y2={y + height} stroke={chart('rule')} pointerEvents="none" />
      <path d={tracePath(before, ...shared)} fill="none" stroke={chart('faint')} strokeWidth={1} pointerEvents="none" />
      <path d={tracePath(after, ...shared)} fill="none" stroke={chart('ink')} strokeWidth={2} strokeLinejoin="round" pointerEvents="none" />
      <text
        role="button"
        tabIndex={0}
        aria-label={`Curve of ${joint}, ${LINES[line]}: show the next`}
        x={x0 + 6}
        y={y + 12}
        fontSize={12.5}
        fill={chart('ink')}
        stroke={chart('paper')}
        strokeWidth={3}
        paintOrder="stroke"
        style={{ cursor: 'pointer' }}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => setLine((line + 1) % 3)}
        onKeyDown={(event) => event.key === 'Enter' && setLine((line + 1) % 3)}
      >
        {joint}, {LINES[line]}
      </text>
      <g
        fontSize={11.5}
        fill={chart('faint')}
        textAnchor="end"
        stroke={chart('paper')}
        strokeWidth={3}
        paintOrder="stroke"
        pointerEvents="none"
      >
        <text x={x0 + width - 3} y={y + 12}>
          {numeral(high, 0)}°
        </text>
        <text x={x0 + width - 3} y={y + height - 3}>
          {numeral(low, 0)}°
        </text>
      </g>
      {keys.map((key) => (
        <Knob
          key={key.frame}
          name={`Key of ${key.joint} at frame ${key.frame}`}
          cx={x(key.frame)}
          cy={at(valueAt(after, key.frame))}
          value={key.turn[line]}
          says={`${numeral(key.turn[line], 1)}° ${LINES[line]}`}
          step={1}
          valuePerPixel={(high - low) / (height - 22)}
          frameAt={frameAt}
          onMove={(frames, degrees, isDone) => {
            const others = { ...layer, keys: layer.keys.filter((own) => own !== key) };
            onPut(withKey(others, movedKey(key, line, frames, degrees)), isDone);
          }}
          onDelete={() => onPut({ ...layer, keys: layer.keys.filter((own) => own !== key) }, true)}
        />
      ))}
    </g>
  );
}

/** The frame of a curve at a key, also where the key lies beyond its ends. */
const valueAt = (values: Float32Array, frame: number): number => values[Math.min(values.length - 1, Math.max(0, frame))];

const columnOf = (values: Float32Array, k: number): Float32Array =>
  Float32Array.from({ length: values.length / 3 }, (_, f) => values[f * 3 + k]);

/** The line about which a correction does most; without one, about which the joint moves most. */
function liveliestOf({ before, after }: Bend): number {
  const span = (of: (i: number) => number) =>
    [0, 1, 2].map((k) => {
      let [low, high] = [Infinity, -Infinity];
      for (let i = k; i < before.length; i += 3) [low, high] = [Math.min(low, of(i)), Math.max(high, of(i))];
      return high - low;
    });
  const changes = span((i) => after[i] - before[i]);
  const spans = Math.max(...changes) > 0.5 ? changes : span((i) => before[i]);
  return spans.indexOf(Math.max(...spans));
}

function rangeOf(curves: readonly Float32Array[]): { low: number; high: number } {
  let [low, high] = [Infinity, -Infinity];
  for (const curve of curves) for (const v of curve) [low, high] = [Math.min(low, v), Math.max(high, v)];
  const lack = Math.max(0, LEAST - (high - low)) / 2;
  return { low: low - lack, high: high + lack };
}

/** A key with some frames and degrees about a line added. */
const movedKey = (key: LayerKey, line: number, frames: number, degrees: number): LayerKey => ({
  ...key,
  frame: key.frame + frames,
  turn: key.turn.map((own, k) => (k === line ? Number((own + degrees).toFixed(3)) : own)) as [number, number, number],
});
