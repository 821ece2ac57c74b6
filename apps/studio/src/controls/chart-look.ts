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
