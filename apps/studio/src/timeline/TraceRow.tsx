'use client';
import { useEffect, useMemo, useRef } from 'react';
import { usePlayer } from '@/data/player';
import { chart } from '@/controls/theme';
import type { DeckWindow } from './axis-window';
import { GUTTER, RIGHT } from './deck-layout';
import { tracePath } from './paths';

/** A curve along the take: what it is, its unit and its values, one a frame. */
export interface TraceLine {
  readonly id: string;
  readonly label: string;
  readonly unit: string;
  readonly digits: number;
  readonly values: Float32Array;
}

/** Height of a trace, pixels. */
export const TRACE = 40;

/** One trace: its curve, its range, and its value at the playhead, which moves without rendering. */
export function TraceRow({
  trace,
  y,
  window,
  width,
  x,
}: {
  trace: TraceLine;
  y: number;
  window: DeckWindow;
  width: number;
  x: (frame: number) => number;
}) {
  const { values, digits, unit, label } = trace;
  const [low, high] = useMemo(() => rangeOf(values), [values]);
  const top = y + 5;
  const bottom = y + TRACE - 5;
  const path = useMemo(
    () => tracePath(values, window.from, window.to, width, x, (v) => bottom - ((v - low) / (high - low)) * (bottom - top)),
    [values, window, width, x, low, high, top, bottom],
  );
  const value = useRef<SVGTextElement>(null);
  const dot = useRef<SVGCircleElement>(null);
  useEffect(() => {
    const show = () => {
      const frame = usePlayer.getState().frame;
      const v = values[Math.min(values.length - 1, Math.round(frame))] ?? 0;
      if (value.current) value.current.textContent = `${v.toFixed(digits).replace('-', '−')} ${unit}`;
      dot.current?.setAttribute('transform', `translate(${x(frame)} ${bottom - ((v - low) / (high - low)) * (bottom - top)})`);
    };
    show();
    return usePlayer.subscribe(show);
  }, [values, digits, unit, x, low, high, top, bottom]);
  return (
    <g role="img" aria-label={`${label}, ${low.toFixed(digits)} to ${high.toFixed(digits)} ${unit}`}>
      <line x1={GUTTER} x2={width - RIGHT} y1={y + TRACE} y2={y + TRACE} stroke={chart('rule')} strokeWidth={0.6} />
      <text x={14} y={y + 16} fontSize={12} fill={chart('faint')}>
        {label.length > 11 ? `${label.slice(0, 10)}…` : label}
        <title>{label}</title>
      </text>
      <text ref={value} x={14} y={y + 31} fontSize={13} fontWeight={700} fill={chart('ink')} />
      <g clipPath="url(#take-axis)">
        <path d={path} fill="none" stroke={chart('ink')} strokeWidth={1.2} />
        <circle ref={dot} r={3} fill={chart('lamp')} stroke={chart('ink')} />
      </g>
    </g>
  );
}

function rangeOf(values: Float32Array): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  // Counted, for a long take has hundreds of thousands.
  for (let f = 0; f < values.length; f++) {
    const v = values[f];
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return high - low > 1e-6 ? [low, high] : [low - 0.5, low + 0.5];
}
