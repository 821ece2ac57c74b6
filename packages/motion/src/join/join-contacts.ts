import { groundwork } from '../measure/groundwork';
import type { Side } from '../model/body';
import type { Contacts, Interval } from '../model/contacts';
import { cutMotion, type Motion } from '../model/motion';

/** Contacts of some frames, counted from a frame of the join. */
export function within({ fps, floorM, left, right }: Contacts, from: number, to: number, at: number): Contacts {
  const own = (all: readonly Interval[]) =>
    all
      .map((one) => ({ from: Math.max(from, one.from) - from + at, to: Math.min(to, one.to) - from + at }))
      .filter((one) => one.to > one.from);
  return { fps, floorM, left: own(left), right: own(right) };
}

/** Contacts of both, those that touch or nearly do made one. */
export function together(a: Contacts, b: Contacts): Contacts {
  const merged = (x: readonly Interval[], y: readonly Interval[]) => {
    const out: { from: number; to: number }[] = [];
    for (const own of [...x, ...y].sort((p, q) => p.from - q.from)) {
      const last = out.at(-1);
      if (last && own.from - last.to <= 2) last.to = Math.max(last.to, own.to);
      else out.push({ ...own });
    }
    return out;
  };
  return { ...a, left: merged(a.left, b.left), right: merged(a.right, b.right) };
}

/** An overlap as one of its pieces goes through it. */
interface Half {
  readonly from: number;
  readonly frames: number;
  readonly weights: Float64Array;
  /** The piece's own instant at each frame of the overlap. */
  readonly times: Float64Array;
  /** Shares of the coming piece at which each foot is let go, and at which it bears again. */
  readonly feet: Feet;
}

type Feet = Readonly<Record<Side, readonly [letGo: number, bears: number]>>;

/** A foot that goes further than this over the middle of an overlap cannot have stood there all the time, metres. */
const APART = 0.03;
const HALF = [0.5, 0.5] as const;
/** Such a foot takes a step from the one place to the other meanwhile. */
const STEPPING = [0.12, 0.88] as const;

/**
 * A foot that stands at one place in the one piece and at another in the other is let go in between.
 *
 * @param others what holds for the others
 */
export function plantedApart(motion: Motion, from: number, to: number, weights: Float64Array, others: Feet[Side] = HALF): Feet {
  const found = groundwork(cutMotion(motion, from, to));
  if (!found) return { left: others, right: others };
  const { positions, joints } = found.globals;
  const [a, b] = [weights.findIndex((w) => w > STEPPING[0]), weights.findIndex((w) => w >= STEPPING[1])];
  const of = (side: Side) => {
    const at = (f: number) => (f * joints + found.body.legs[side].ankle) * 3;
    const way = Math.hypot(positions[at(b)] - positions[at(a)], positions[at(b) + 2] - positions[at(a) + 2]);
    return way > APART ? STEPPING : others;
  };
  return { left: of('left'), right: of('right') };
}

/** The frame of the overlap at which a piece's instant is played. */
function frameOf(times: Float64Array, instant: number): number {
  let f = 0;
  while (f < times.length && times[f] < instant - 1e-6) f++;
  return f;
}

/** Of the leaving piece: contacts that have begun before the other counts more; those end with the overlap's middle. */
export function untilHalf({ fps, floorM, left, right }: Contacts, { from, frames, weights, times, feet }: Half): Contacts {
  const at = (f: number) => (f <= from ? f : from + Math.min(frames + 1, frameOf(times, f)));
  const own = (all: readonly Interval[], [letGo]: Feet[Side]) => {
    const half = from + weights.findIndex((w) => w >= letGo);
    return all.map((one) => ({ from: at(one.from), to: Math.min(half, at(one.to)) })).filter((one) => one.to > one.from);
  };
  return { fps, floorM, left: own(left, feet.left), right: own(right, feet.right) };
}

/** Of the coming piece: contacts that last beyond the overlap's middle; those begin there. */
export function sinceHalf(
  { fps, floorM, left, right }: Contacts,
  { from, frames, weights, times, last, feet }: Half & { last: number },
): Contacts {
  const end = times[frames];
  const at = (f: number) => (f >= end ? from + frames + Math.round(f - end) : from + frameOf(times, f));
  const own = (all: readonly Interval[], [, bears]: Feet[Side]) => {
    const half = from + weights.findIndex((w) => w >= bears);
    return all
      .map((one) => ({ from: Math.max(half, at(one.from)), to: at(Math.min(last + 1, one.to)) }))
      .filter((one) => one.to > one.from);
  };
  return { fps, floorM, left: own(left, feet.left), right: own(right, feet.right) };
}
