import { median } from '../math/statistics';
import { lowPassedPoint } from './low-passed';
import { raised } from './raised';
import type { Soles, SoleTracks } from './soles';
import type { Contacts, Interval } from '../model/contacts';

export interface ContactOptions {
  /** A sole point nearer to the floor than this may bear, metres. */
  readonly height: number;
  /** A foot that bears is slower than this, metres a second: well above what a skating foot does, well below a swing. */
  readonly speed: number;
  /** Once in contact a foot stays in it up to this many times both thresholds. */
  readonly hold: number;
  /** Contacts and gaps shorter than this are not believed, seconds. */
  readonly shortest: number;
}

const DEFAULTS: ContactOptions = { height: 0.03, speed: 0.35, hold: 1.1, shortest: 0.05 };

/**
 * Foot contacts: intervals in which heel, ball or toe tip is low and slow, with hysteresis (see `hold`). Low is near the floor or, where
 * a foot stands on a kerb or stair, near that (see `raised`).
 *
 * @param soles from `soles`, metres
 * @param fps frames a second
 * @param hips height of the hips per frame, metres; without it there is the floor only
 */
export function contacts(
  soles: Soles,
  fps: number,
  hips: ArrayLike<number> | null = null,
  options: Partial<ContactOptions> = {},
): Contacts {
  const settings = { ...DEFAULTS, ...options };
  const feet = { left: footOf(soles.left, fps), right: footOf(soles.right, fps) };
  const onFloor = (side: 'left' | 'right') => intervalsOf(costOf(feet[side], soles.floor, settings), fps, settings);
  const found = { left: onFloor('left'), right: onFloor('right') };
  if (hips) {
    const before = { ...found };
    for (const side of ['left', 'right'] as const) {
      const otherBears = new Uint8Array(hips.length);
      for (const { from, to } of before[side === 'left' ? 'right' : 'left']) otherBears.fill(1, from, to);
      const levels = raised(feet[side].lowest, feet[side].slowest, otherBears, hips, soles.floor, fps);
      if (levels.length === 0) continue;
      const cost = costOf(feet[side], soles.floor, settings);
      // To both sides of the rest too: the foot lands on the level and leaves it.
      const margin = Math.round(0.3 * fps);
      for (const { from, to, level } of levels) {
        const there = costOf(feet[side], level, settings, Math.max(0, from - margin), Math.min(cost.length, to + margin));
        there.forEach((value, i) => (cost[Math.max(0, from - margin) + i] = Math.min(cost[Math.max(0, from - margin) + i], value)));
      }
      found[side] = intervalsOf(cost, fps, settings);
    }
  }
  const edged = { left: withEdges(found.left, feet.left.lowest, fps), right: withEdges(found.right, feet.right.lowest, fps) };
  return { fps, floorM: soles.floor, ...edged };
}

/** Heights and speeds of a foot's sole points, low-passed at 12 Hz. */
interface Foot {
  readonly points: readonly { readonly height: Float64Array; readonly speed: Float64Array }[];
  readonly lowest: Float64Array;
  readonly slowest: Float64Array;
}

function footOf(track: SoleTracks, fps: number): Foot {
  const points = [track.heel, track.ball, track.tip].map((point) => heightAndSpeed(point, fps));
  const [heel, ball, tip] = points;
  const least = (which: 'height' | 'speed') => heel[which].map((v, f) => Math.min(v, ball[which][f], tip[which][f]));
  return { points, lowest: least('height'), slowest: least('speed') };
}

function heightAndSpeed(point: Float32Array, fps: number): Foot['points'][number] {
  const { x, y, z } = lowPassedPoint(point, fps);
  const n = x.length;
  const speed = new Float64Array(n);
  for (let f = 0; f < n; f++) {
    const a = f > 0 ? f - 1 : 0;
    const b = f < n - 1 ? f + 1 : n - 1;
    const [dx, dy, dz] = [x[b] - x[a], y[b] - y[a], z[b] - z[a]];
    speed[f] = b > a ? (Math.sqrt(dx * dx + dy * dy + dz * dz) * fps) / (b - a) : 0;
  }
  return { height: y, speed };
}

/** Below 1 where a sole point is low and slow enough to bear at a level: the greater of height and speed over their thresholds. */
function costOf({ points }: Foot, level: number, { height, speed }: ContactOptions, from = 0, to = points[0].height.length): Float64Array {
  const out = new Float64Array(to - from).fill(Infinity);
  for (const point of points) {
    for (let f = from; f < to; f++) {
      const cost = Math.max((point.height[f] - level) / height, point.speed[f] / speed);
      if (cost < out[f - from]) out[f - from] = cost;
    }
  }
  return out;
}

/** A foot is down, however quick it is, where its lowest point is this much below where it rests in the contact, metres: noise is less. */
const DOWN = 0.002;
/** Touching is looked for this far to both sides of where a contact was found to begin or end, seconds. */
const EDGE_SECONDS = 0.07;

/** Contacts from the first touch to the last: speed tells that a foot bears, but a foot that lands from a leap is down while it is still quick. */
function withEdges(intervals: readonly Interval[], lowest: Float64Array, fps: number): Interval[] {
  const reach = Math.round(EDGE_SECONDS * fps);
  return intervals.map(({ from, to }, i) => {
    const quarter = Math.floor((to - from) / 4);
    const level = median(lowest.subarray(from + quarter, to - quarter));
    const touches = (f: number) => lowest[f] < level - DOWN;
    const [least, most] = [i > 0 ? intervals[i - 1].to + 1 : 0, i + 1 < intervals.length ? intervals[i + 1].from - 1 : lowest.length];
    let a = from;
    while (a > Math.max(least, from - reach) && touches(a - 1)) a--;
    let b = to;
    while (b < Math.min(most, to + reach) && touches(b)) b++;
    return { from: from === 0 ? 0 : a, to: to === lowest.length ? to : b };
  });
}

function intervalsOf(cost: Float64Array, fps: number, { hold, shortest }: ContactOptions): Interval[] {
  const intervals: { from: number; to: number }[] = [];
  let from = -1;
  for (let f = 0; f <= cost.length; f++) {
    const on = f < cost.length && cost[f] < (from < 0 ? 1 : hold);
    if (on && from < 0) from = f;
    if (!on && from >= 0) {
      intervals.push({ from, to: f });
      from = -1;
    }
  }
  const least = shortest * fps;
  const joined: { from: number; to: number }[] = [];
  for (const interval of intervals) {
    const last = joined.at(-1);
    if (last && interval.from - last.to < least) last.to = interval.to;
    else joined.push({ ...interval });
  }
  // Nobody was in the air for less before the first frame, or will be after the last.
  const [first, last] = [joined[0], joined[joined.length - 1]];
  if (first && first.from < least) first.from = 0;
  if (last && cost.length - last.to < least) last.to = cost.length;
  return joined.filter(({ from: a, to: b }) => b - a >= least);
}
