import { smoothStep5 } from '../math/smooth';
import type { Contacts, Interval } from '../model/contacts';

/**
 * Intervals in which a foot is in the air, in order; those that overlap, as in a run, are one.
 *
 * @example
 * swingsOf({ left: [{ from: 0, to: 20 }], right: [{ from: 0, to: 40 }] }, 41); // [{ from: 20, to: 41 }]
 */
export function swingsOf(contacts: Pick<Contacts, 'left' | 'right'>, frames: number): Interval[] {
  const out: { from: number; to: number }[] = [];
  for (let f = 0; f < frames; f++) {
    const bears = (all: readonly Interval[]) => all.some(({ from, to }) => f >= from && f < to);
    if (bears(contacts.left) && bears(contacts.right)) continue;
    const last = out.at(-1);
    if (last?.to === f) last.to = f + 1;
    else out.push({ from: f, to: f + 1 });
  }
  return out;
}

/**
 * How much of a change has come by every frame, 0 to 1, when it is spread over the swings: in each as much as it does of something already (of its
 * turning, of its way), begun and ended gently, and nothing while both feet bear.
 *
 * @param does how much of it is done in a frame; never less than nothing
 * @returns null when no foot is ever in the air
 */
export function overSwings(contacts: Pick<Contacts, 'left' | 'right'>, does: ArrayLike<number>): Float64Array | null {
  const frames = does.length;
  const swings = swingsOf(contacts, frames);
  if (swings.length === 0) return null;
  const shares = swings.map(({ from, to }) => {
    let sum = 1e-6 * (to - from);
    for (let f = from; f < to; f++) sum += does[f];
    return sum;
  });
  const all = shares.reduce((sum, v) => sum + v, 0);
  const out = new Float64Array(frames);
  swings.forEach(({ from, to }, i) => {
    const share = shares[i] / all;
    for (let f = from; f < frames; f++) out[f] += share * smoothStep5((f - from + 1) / (to - from));
  });
  return out;
}
