import type { FieldDoc } from '@/data/sets-store';
import type { FieldView } from '@/worker/core.worker';
import { extentOf } from '../use-field';

/** The drawing's own units. */
export const W = 590;
export const H = 500;
export const EDGE = { left: 64, right: 22, top: 26, bottom: 42 } as const;

/** Where places of a field lie on the drawing, and which place a point of it is. */
export interface Frame {
  readonly x: (place: readonly [number, number]) => number;
  readonly y: (place: readonly [number, number]) => number;
  readonly place: (x: number, y: number) => readonly [number, number];
}

/** Where places of a field lie on the chart: left on the left, faster further up; of one input along a line. */
export function frameOf(field: FieldDoc, view: FieldView): Frame {
  const { low, high } = extentOf(view);
  const isSpeedUp = field.inputs[1] === 'turn';
  const isLine = field.inputs.length === 1;
  // The input that goes across, to the right as it grows less, and the one that goes up.
  const [across, up] = isLine ? ([0, 1] as const) : isSpeedUp ? ([1, 0] as const) : ([0, 1] as const);
  const pad = (k: 0 | 1) => Math.max(0.06 * (high[k] - low[k]), k === across && isSpeedUp ? 4 : 0.08);
  const span = (k: 0 | 1) => [low[k] - pad(k), high[k] + pad(k)] as const;
  const [a0, a1] = span(across);
  const [u0, u1] = span(up);
  const [w, h] = [W - EDGE.left - EDGE.right, H - EDGE.top - EDGE.bottom];
  const share = (v: number) => (isLine ? (v - a0) / (a1 - a0) : (a1 - v) / (a1 - a0));
  return {
    x: (place) => EDGE.left + share(place[across]) * w,
    y: (place) => (isLine ? EDGE.top + h / 2 : EDGE.top + ((u1 - place[up]) / (u1 - u0)) * h),
    place: (x, y) => {
      const s = Math.max(0, Math.min(1, (x - EDGE.left) / w));
      const own = isLine ? a0 + s * (a1 - a0) : a1 - s * (a1 - a0);
      const other = isLine ? 0 : u1 - Math.max(0, Math.min(1, (y - EDGE.top) / h)) * (u1 - u0);
      return across === 0 ? [own, other] : [other, own];
    },
  };
}
