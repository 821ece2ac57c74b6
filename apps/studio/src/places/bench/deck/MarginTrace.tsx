'use client';
import { line } from 'd3-shape';
import { useMemo } from 'react';
import { chart } from '@/controls/theme';
import type { DeckWindow } from '@/timeline/axis-window';
import { GUTTER } from '@/timeline/deck-layout';

/** Less than this on either side of the soles' edge fills the height, cm. */
const LEAST = 6;

/** How far the body's centre is inside of its soles: over the line of their edge it is inside, hatched below it is outside; nothing where no foot bears. */
export function MarginTrace({
  values,
  x,
  span,
  window,
  y,
  height,
}: {
  values: Float32Array;
  x: (frame: number) => number;
  span: number;
  window: DeckWindow;
  y: number;
  height: number;
}) {
  const { path, edge, high, low } = useMemo(() => {
    const first = Math.max(0, Math.floor(window.from));
    const last = Math.min(values.length - 1, Math.ceil(window.to));
    const frames = Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i);
    const known = frames.map((f) => values[f]).filter((v) => !Number.isNaN(v));
    const high = Math.max(LEAST, ...known);
    const low = Math.min(-LEAST, ...known);
    const at = (v: number) => y + 6 + ((high - v) / (high - low)) * (height - 12);
    const drawn = line<number>()
      .defined((f) => !Number.isNaN(values[f]))
      .x((f) => x(f))
      .y((f) => at(values[f]))
      .digits(1);
    return { path: drawn(frames) ?? '', edge: at(0), high, low };
  }, [values, window, x, y, height]);
  return (
    <g pointerEvents="none">
      <rect x={GUTTER} y={edge} width={span} height={Math.max(0, y + height - edge)} fill={chart('rule')} opacity={0.35} />
      <line x1={GUTTER} x2={GUTTER + span} y1={edge} y2={edge} stroke={chart('faint')} strokeDasharray="4 3" />
      <line x1={GUTTER} x2={GUTTER + span} y1={y + height} y2={y + height} stroke={chart('rule')} />
      <path d={path} fill="none" stroke={chart('ink')} strokeWidth={1.4} strokeLinejoin="round" />
      <g fontSize={11.5} fill={chart('faint')} textAnchor="end" stroke={chart('paper')} strokeWidth={3} paintOrder="stroke">
        <text x={GUTTER + span - 3} y={y + 12}>
          {high.toFixed(0)}
        </text>
        <text x={GUTTER + span - 3} y={y + height - 3}>
          {low.toFixed(0).replace('-', '−')}
        </text>
      </g>
    </g>
  );
}
