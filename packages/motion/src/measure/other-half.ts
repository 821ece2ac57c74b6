import { clipContacts } from './clip-slides';
import { wayOf } from './way';
import { toSpaceOf, worldMotion, type Clip } from '../model/clip';
import type { Travel } from '../model/travel';
import { mirrorMotion } from '../anatomy/mirror-motion';
import type { Motion } from '../model/motion';
import { pickFrames } from '../model/repeat';
import { resampleAt } from '../model/resample';
import { timeMap } from '../math/time-map';

/**
 * A cycle as each of its steps sees it, in the space of its even way: begun with every landing in turn, those of the other foot in the
 * mirror, all brought to the same footfalls. A cycle that does on the right what it does on the left has them all alike.
 */
export interface Halves {
  readonly samples: readonly Motion[];
  readonly way: Travel;
  /** Frame of the landing that the first sample begins with. */
  readonly start: number;
}

/** Steps last alike; where one takes less than this share of another's time, both feet land at once. */
const LEAST_ALIKE = 0.3;
/** A cycle that turns more than this does different things with its inner and outer foot, radians. */
const MOST_TURN = (8 * Math.PI) / 180;

/**
 * @param even 0 leaves the landings of the first sample where they are, 1 brings all to their mean, which are half-way through each stride
 * @returns null for what is no straight loop of steps by turns: hops on both feet have no other half
 */
export function halvesOf(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>, even = 0): Halves | null {
  const last = clip.motion.frames - 1;
  if (!clip.loop || last < 8) return null;
  const contacts = clipContacts(clip);
  if (!contacts) return null;
  const falls = (['left', 'right'] as const)
    .flatMap((side) => [...new Set(contacts[side].map(({ from }) => from % last))].map((at) => ({ at, side })))
    .sort((a, b) => a.at - b.at);
  const first = falls.findIndex(({ side }) => side === 'left');
  const order = [...falls.slice(first), ...falls.slice(0, first)];
  if (first < 0 || order.length < 2 || order.length % 2 > 0) return null;
  if (order.some(({ side }, i) => side !== (i % 2 ? 'right' : 'left'))) return null;
  const world = worldMotion(clip);
  const way = wayOf(world, true);
  if (Math.abs(way.heading[last] - way.heading[0]) > MOST_TURN) return null;
  // The mirror image of a step to the left is one to the right.
  const [dx, dz, h] = [way.x[last] - way.x[0], way.z[last] - way.z[0], way.heading[0]];
  if (Math.abs(dx * Math.cos(h) - dz * Math.sin(h)) > 0.2 * Math.hypot(dx, dz)) return null;
  const start = order[0].at;
  const body = toSpaceOf(world, way);
  const times = order.map((_, i) => [...order.map((__, k) => (order[(i + k) % order.length].at - order[i].at + last) % last), last]);
  const mean = times[0].map((_, k) => times.reduce((sum, t) => sum + t[k], 0) / times.length);
  const shared = times[0].map((t, k) => t + (mean[k] - t) * even);
  const gap = (all: readonly number[], k: number) => all[k] - all[k - 1];
  const isLike = (own: number, usual: number) => usual >= 2 && own > LEAST_ALIKE * usual && usual > LEAST_ALIKE * own;
  const isUnlike = (own: readonly number[]) => own.some((_, k) => k > 0 && !isLike(gap(own, k), gap(shared, k)));
  if (times.some(isUnlike)) return null;
  const samples = order.map(({ at }, i) => {
    const begun = fromFrame(body, at);
    const seen = i % 2 ? mirrorMotion(begun) : begun;
    const pins = times[i].map((from, k) => ({ from, to: shared[k] }));
    return resampleAt(seen, timeMap(pins, true), seen.fps, { loop: true });
  });
  return { samples, way, start };
}

/** A cycle in the space of its way from another of its frames on. */
export function fromFrame(motion: Motion, start: number): Motion {
  const last = motion.frames - 1;
  return pickFrames(
    motion,
    Array.from({ length: last + 1 }, (_, f) => (f + start) % last),
  );
}
