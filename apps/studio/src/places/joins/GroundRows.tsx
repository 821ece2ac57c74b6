'use client';
import { levelAt } from '@lantern/motion';
import { useMemo } from 'react';
import { chart } from '@/controls/theme';
import { tracePath } from '@/timeline/paths';
import type { Axis } from '@/timeline/axis-window';
import type { JoinRows } from './rows';
import type { Joinery } from './use-joinery';

/** The height of the hips, and the ground under the feet as shifts raise it. */
export function GroundRows({ joinery: { view }, axis, rows }: { joinery: Joinery; axis: Axis; rows: JoinRows }) {
  const { window, span, x } = axis;
  const trace = useMemo(() => {
    if (!view) return null;
    const { height, levels } = view;
    const ground = Float32Array.from(height, (_, f) => levelAt(levels, f));
    const [low, high] = [Math.min(...height), Math.max(...height)];
    const range = Math.max(0.25, high - low);
    const [deep, top] = [Math.min(0, ...ground), Math.max(0, ...ground)];
    const rise = Math.max(0.25, top - deep);
    const hips = (v: number) => rows.ground - 6 - ((v - low) / range) * (rows.ground - rows.height - 12);
    const level = (v: number) => rows.bottom - 6 - ((v - deep) / rise) * (rows.bottom - rows.ground - 12);
    return {
      ...{ low, high, levels, level, deep },
      hips: tracePath(height, window.from, window.to, span, x, hips),
      ground: tracePath(ground, window.from, window.to, span, x, level),
    };
  }, [view, window, span, x, rows.height, rows.ground, rows.bottom]);
  if (!trace) return null;
  const right = x(window.to);
  return (
    <g pointerEvents="none">
      <path d={trace.hips} fill="none" stroke={chart('ink')} strokeWidth={1.5} strokeLinejoin="round" />
      <text
        x={right - 2}
        y={rows.height + 4}
        fontSize={11.5}
        textAnchor="end"
        fill={chart('faint')}
        stroke={chart('paper')}
        strokeWidth={3}
        paintOrder="stroke"
      >
        {trace.high.toFixed(2)} m
      </text>
      <path d={`${trace.ground}L${right} ${rows.bottom}L${x(window.from)} ${rows.bottom}Z`} fill={chart('rule')} opacity={0.45} />
      <path d={trace.ground} fill="none" stroke={chart('ink')} strokeWidth={1.5} />
      {trace.levels.map(({ from, to, raise }) => (
        <text
          key={from}
          x={x(to) > right - 120 ? x(from) - 4 : x(to) + 4}
          textAnchor={x(to) > right - 120 ? 'end' : 'start'}
          y={trace.level(levelAt(trace.levels, x(to) > right - 120 ? from : to)) - 4}
          fontSize={11.5}
          fill={chart('ink')}
        >
          {raise > 0 ? '+' : '−'}
          {Math.abs(raise).toFixed(2)} m over {Math.round(to - from)} f
        </text>
      ))}
    </g>
  );
}
