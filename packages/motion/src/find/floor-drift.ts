import { median } from '../math/statistics';
import { groundwork } from '../measure/groundwork';
import { lowestPoint, lowPassedSoles } from '../measure/slide';
import type { Interval } from '../model/contacts';
import type { Motion } from '../model/motion';

/** Contacts whose levels differ by more stand on different ground, metres. */
const STEP = 0.03;
/** A longer contact is looked at piece by piece, seconds. */
const PIECE = 1.5;
/** Slopes are taken between contacts that are at least so far apart, seconds. */
const APART = 1;

/**
 * How fast the floor rises under the feet of a performer who stays on it, metres a second: the median slope (Theil 1950, Sen 1968) of the levels of
 * contacts that stand on the same ground. From one contact to the next a level that jumps is a kerb or a stair, and counts as other ground.
 *
 * @param motion metres, in the world
 * @returns 0 where there are too few contacts to tell
 */
export function floorDrift(motion: Motion): number {
  const found = groundwork(motion);
  if (!found) return 0;
  const soles = lowPassedSoles(found.soles, motion.fps);
  const levels = (['left', 'right'] as const)
    .flatMap((side) =>
      found.contacts[side]
        .flatMap((contact) => pieces(contact, motion.fps))
        .map(({ from, to }) => {
          const heights: number[] = [];
          for (let f = Math.max(1, from); f < Math.min(to, motion.frames); f++) heights.push(lowestPoint(soles[side], f).y[f]);
          return { at: (from + to) / 2 / motion.fps, level: median(heights) };
        }),
    )
    .sort((a, b) => a.at - b.at);
  let ground = 0;
  const grounds = levels.map(({ level }, i) => (i > 0 && Math.abs(level - levels[i - 1].level) > STEP ? ++ground : ground));
  const slopes: number[] = [];
  levels.forEach((a, i) =>
    levels.slice(i + 1).forEach((b, k) => {
      if (grounds[i] === grounds[i + 1 + k] && b.at - a.at >= APART) slopes.push((b.level - a.level) / (b.at - a.at));
    }),
  );
  return slopes.length > 0 ? median(slopes) : 0;
}

/** A contact in pieces of about the same length. */
function pieces({ from, to }: Interval, fps: number): Interval[] {
  const count = Math.max(1, Math.round((to - from) / (PIECE * fps)));
  const at = (i: number) => from + Math.round((i * (to - from)) / count);
  return Array.from({ length: count }, (_, i) => ({ from: at(i), to: at(i + 1) }));
}
