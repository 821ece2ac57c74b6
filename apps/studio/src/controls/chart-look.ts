import { chart } from './theme';

/** Figures along the axes of small charts. */
export const TICK = { fontSize: 12, fill: chart('faint') } as const;

/** The slip of paper under the pointer of small charts. */
export const TOOLTIP = {
  isAnimationActive: false,
  contentStyle: { background: chart('card'), border: `1px solid ${chart('rule')}`, borderRadius: 4, padding: '2px 8px', fontSize: 13 },
  labelStyle: { color: chart('faint') },
  itemStyle: { color: chart('ink'), padding: 0 },
  cursor: { stroke: chart('lamp') },
} as const;

/** A chart that fills its place to the edge. */
export const FLUSH = { top: 3, right: 1, bottom: 3, left: 1 } as const;

/** A curve without dots that is there at once. */
export const PLAIN = { dot: false, activeDot: false, isAnimationActive: false, type: 'linear' } as const;

/** The least and the greatest of some values, of which there is at least one. */
export function extent(values: readonly number[]): [number, number] {
  return values.reduce<[number, number]>(([low, high], v) => [Math.min(low, v), Math.max(high, v)], [Infinity, -Infinity]);
}
