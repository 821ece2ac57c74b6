import type { OpenTake } from '@/worker/core.worker';
import type { DeckWindow } from './axis-window';
import { ticks } from './ticks';

export const RULER_UNITS = ['seconds', 'frames', 'strides'] as const;
export type RulerUnit = (typeof RULER_UNITS)[number];

/** Ticks of the ruler within a window: where, and what stands beside those that have room for it. */
export function rulerOf(
  unit: RulerUnit,
  take: Pick<OpenTake, 'contacts' | 'motion'>,
  window: DeckWindow,
  width: number,
): { frame: number; label: string | null }[] {
  const { fps } = take.motion;
  if (unit === 'strides') {
    // One stride from each left footfall to the next.
    return (take.contacts?.left ?? [])
      .map(({ from }, i) => ({ frame: from, label: String(i + 1) }))
      .filter(({ frame }) => frame > 0 && frame >= window.from - 1 && frame <= window.to);
  }
  const perUnit = unit === 'seconds' ? fps : 1;
  const [from, to] = [window.from / perUnit, window.to / perUnit];
  // A tenth of a second, where there is room.
  const fine = unit === 'seconds' && to - from < 4 ? 10 : 1;
  return ticks(Math.max(0, from * fine), to * fine, width, 48).map(({ at, isLabelled }) => ({
    frame: (at / fine) * perUnit,
    label: isLabelled ? String(Number((at / fine).toFixed(2))) : null,
  }));
}
