import { worldMotion, type Clip } from '../model/clip';
import { invert, moveFrames } from '../model/floor-transform';
import type { Motion } from '../model/motion';
import { cycleTransform, pickFrames } from '../model/repeat';
import type { Contacts, Interval } from '../model/contacts';

/** A clip as it plays in the world: of a loop also what comes before its cycle and after it. */
export interface Played {
  readonly motion: Motion;
  /** The frame of it at which the clip begins. */
  readonly start: number;
}

/** So much of the neighbouring cycles is played, seconds: contacts across the seam are whole, and filters have settled. */
const BESIDE_SECONDS = 1.5;

/** The clip's own frames are where they are; those beside them are the cycle before and the cycle after it. */
export function played(clip: Pick<Clip, 'motion' | 'travel' | 'loop'>): Played {
  const world = worldMotion(clip);
  const last = world.frames - 1;
  if (!clip.loop || last < 8) return { motion: world, start: 0 };
  const start = Math.min(last, Math.ceil(BESIDE_SECONDS * world.fps));
  const order = Array.from({ length: last + 2 * start + 1 }, (_, i) => {
    const f = i - start;
    return f === last ? last : (f + last) % last;
  });
  const motion = pickFrames(world, order);
  const cycle = cycleTransform(clip);
  moveFrames(motion, invert(cycle), 0, start);
  moveFrames(motion, cycle, start + last + 1);
  return { motion, start };
}

/** The contacts that begin in a clip as it is played, in its own frames; a foot that stands all the time stands from its first frame to its last. */
export function ownContacts({ fps, floorM, left, right }: Contacts, start: number, cycle: number): Contacts {
  const own = (all: readonly Interval[]) =>
    all.some(({ from, to }) => from < start && to >= start + cycle)
      ? [{ from: 0, to: cycle }]
      : all.filter(({ from }) => from >= start && from < start + cycle).map(({ from, to }) => ({ from: from - start, to: to - start }));
  return { fps, floorM, left: own(left), right: own(right) };
}

/** A loop's contacts wherever it is played. */
export function comingRound({ fps, floorM, left, right }: Contacts, cycle: number, { motion, start }: Played): Contacts {
  const all = (intervals: readonly Interval[]) =>
    [-2, -1, 0, 1]
      .flatMap((k) => intervals.map(({ from, to }) => ({ from: from + k * cycle + start, to: to + k * cycle + start })))
      .map(({ from, to }) => ({ from: Math.max(0, from), to: Math.min(motion.frames, to) }))
      .filter(({ from, to }) => to > from)
      .sort((a, b) => a.from - b.from);
  return { fps, floorM, left: all(left), right: all(right) };
}
