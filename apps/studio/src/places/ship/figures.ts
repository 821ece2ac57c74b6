import { BOUNDS, isOut, type Bounded } from '@/data/bounds';
import type { Readiness } from './use-readiness';

/** Figures of every clip, whether it loops or not. */
const OF_ALL: readonly Bounded[] = ['slideCm', 'sinkCm', 'hoverCm'];

/** A bounded figure of a clip as it would leave, or null where it has none: a seam where nothing loops, or nothing measured yet. */
export function figureOf({ figures, against }: Pick<Readiness, 'figures' | 'against'>, key: Bounded): number | null {
  if (!figures) return null;
  if (key === 'kink') return against?.kink?.ratio ?? null;
  if (key === 'likenessCm') return against?.likeness?.worstCm ?? null;
  if (OF_ALL.includes(key)) return figures[key as 'slideCm' | 'sinkCm' | 'hoverCm'];
  if (!figures.loop) return null;
  return key === 'tick' ? figures.tick : figures.seam[key as 'poseCm' | 'headingDeg' | 'driftCm'];
}

/** How many of a clip's figures are out of bounds. */
export const troublesOf = (readiness: Pick<Readiness, 'figures' | 'against'>): number =>
  (Object.keys(BOUNDS) as Bounded[]).filter((key) => isOut(key, figureOf(readiness, key) ?? 0)).length;
