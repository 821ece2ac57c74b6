import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import type { FieldDoc } from '@/data/sets-store';
import type { FieldView } from '@/worker/core.worker';
import { extentOf } from '../use-field';
import { EDGE, H, W, type Frame } from './frame';

/** Ruled edges, light and dark by turns, with the inputs' values. */
export function Axes({ field, view, frame }: { field: FieldDoc; view: FieldView; frame: Frame }) {
  const { low, high } = extentOf(view);
  const isTurn = field.inputs[1] === 'turn';
  const isLine = field.inputs.length === 1;
  const across = isTurn ? 1 : 0;
  const up = isTurn ? 0 : 1;
  const step = (span: number, wanted: readonly number[]) => wanted.find((own) => span / own <= 7) ?? wanted[wanted.length - 1];
  const ticks = (k: 0 | 1, wanted: readonly number[]) => {
    const by = step(high[k] - low[k], wanted);
    const first = Math.ceil((low[k] - 1e-9) / by) * by;
    return Array.from({ length: Math.max(0, Math.floor((high[k] - first) / by + 1e-9) + 1) }, (_, i) => first + i * by);
  };
  const xs = ticks(across, isTurn ? [10, 20, 30, 60, 90] : [0.2, 0.5, 1]);
  const ys = isLine ? [] : ticks(up, [0.1, 0.2, 0.5, 1]);
  const bottom = H - EDGE.bottom;
  const at = (k: 0 | 1, v: number): readonly [number, number] => (k === 0 ? [v, low[1]] : [low[0], v]);
  return (
    <g style={{ pointerEvents: 'none' }} fontSize={12} fill={chart('ink')}>
      <rect
        x={EDGE.left - 8}
        y={EDGE.top - 8}
        width={W - EDGE.left - EDGE.right + 16}
        height={H - EDGE.top - EDGE.bottom + 16}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1}
      />
      <rect
        x={EDGE.left - 3}
        y={EDGE.top - 3}
        width={W - EDGE.left - EDGE.right + 6}
        height={H - EDGE.top - EDGE.bottom + 6}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1}
      />
      {Array.from({ length: 6 }, (_, i) => {
        const w = (W - EDGE.left - EDGE.right) / 12;
        return (
          <g key={i} fill={chart('ink')}>
            <rect x={EDGE.left + 2 * i * w} y={EDGE.top - 8} width={w} height={5} />
            <rect x={EDGE.left + (2 * i + 1) * w} y={bottom + 3} width={w} height={5} />
          </g>
        );
      })}
      {xs.map((v) => {
        const x = frame.x(at(across, v));
        const side = isTurn || !isLine ? (v > 1e-6 ? ' L' : v < -1e-6 ? ' R' : '') : '';
        return (
          <g key={v}>
            <line x1={x} x2={x} y1={EDGE.top} y2={bottom} stroke={chart('rule')} strokeWidth={0.6} />
            <text x={x} y={bottom + 24} textAnchor="middle">
              {isLine ? v.toFixed(1) : numeral(Math.abs(v), isTurn ? 0 : 1)}
              {side}
            </text>
          </g>
        );
      })}
      {ys.map((v) => {
        const y = frame.y(at(up, v));
        return (
          <g key={v}>
            <line x1={EDGE.left} x2={W - EDGE.right} y1={y} y2={y} stroke={chart('rule')} strokeWidth={0.6} />
            <text x={EDGE.left - 13} y={y + 4} textAnchor="end">
              {v.toFixed(1)}
            </text>
          </g>
        );
      })}
      <text x={W - EDGE.right} y={H - 4} textAnchor="end" fontSize={11.5} fill={chart('faint')}>
        {isLine ? 'm/s' : isTurn ? 'turn, °/s, to the left and to the right' : 'm/s to the left and to the right'}
      </text>
      {!isLine && (
        <text x={EDGE.left - 13} y={EDGE.top - 12} textAnchor="end" fontSize={11.5} fill={chart('faint')}>
          m/s
        </text>
      )}
    </g>
  );
}
