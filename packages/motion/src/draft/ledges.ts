import { median } from '../math/statistics';
import type { Groundwork } from '../measure/groundwork';
import { series } from '../math/series';

/** Somebody who goes up a step of the ground, or down one: frames of the take, both included. */
export interface Ledge {
  readonly from: number;
  readonly to: number;
}

/** A step of the ground, metres. */
const LEAST = 0.08;
/** Landings before the step and after it. */
const STEPS = 3;

/** Where the ground under the feet rises or falls between two landings. */
export function ledgesOf({ soles, contacts, motion: { fps } }: Groundwork): Ledge[] {
  const stances = (['left', 'right'] as const)
    .flatMap((side) => contacts[side].map((own) => ({ ...own, side })))
    .filter(({ from, to }) => to - from >= 0.08 * fps)
    .sort((a, b) => a.from - b.from)
    .map(({ side, from, to }) => {
      const { heel, ball } = soles[side];
      const low = series(to - from, (i) => Math.min(heel[(from + i) * 3 + 1], ball[(from + i) * 3 + 1]));
      return { from, level: median(low) };
    });
  const out: Ledge[] = [];
  for (let i = 1; i < stances.length; i++) {
    if (Math.abs(stances[i].level - stances[i - 1].level) < LEAST) continue;
    const [from, to] = [stances[i - STEPS], stances[i + STEPS]];
    if (from && to) out.push({ from: from.from, to: to.from });
  }
  return out;
}
