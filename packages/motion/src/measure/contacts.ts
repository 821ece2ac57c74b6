import { lowPass } from '../math/filter';
import type { Soles, SoleTracks } from './soles';

/** Frames; `from` is the first in contact, `to` the first after. */
export interface Interval {
  readonly from: number;
  readonly to: number;
}

export interface Contacts {
  readonly fps: number;
  readonly floorM: number;
  readonly left: readonly Interval[];
  readonly right: readonly Interval[];
}

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
 * Foot contacts: intervals in which heel, ball or toe tip is low and slow, with hysteresis (see `hold`).
 *
 * @param soles from `soles`, metres
 * @param fps frames a second
 */
export function contacts(soles: Soles, fps: number, options: Partial<ContactOptions> = {}): Contacts {
  const settings = { ...DEFAULTS, ...options };
  const find = (track: SoleTracks) => contactsOfFoot(track, soles.floor, fps, settings);
  return { fps, floorM: soles.floor, left: find(soles.left), right: find(soles.right) };
}

function contactsOfFoot(track: SoleTracks, floor: number, fps: number, { height, speed, hold, shortest }: ContactOptions): Interval[] {
  const cost = bearingCost(track.heel, floor, fps, height, speed);
  for (const points of [track.ball, track.tip]) {
    const other = bearingCost(points, floor, fps, height, speed);
    for (let f = 0; f < cost.length; f++) cost[f] = Math.min(cost[f], other[f]);
  }
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
  return joined.filter(({ from: a, to: b }) => b - a >= least);
}

/** Below 1 where a point is low and slow enough to bear: the greater of height and speed over their thresholds. */
function bearingCost(points: Float32Array, floor: number, fps: number, height: number, speed: number): Float64Array {
  const n = points.length / 3;
  const [x, y, z] = [0, 1, 2].map((k) =>
    lowPass(
      Float64Array.from({ length: n }, (_, f) => points[f * 3 + k]),
      12,
      fps,
    ),
  );
  const cost = new Float64Array(n);
  for (let f = 0; f < n; f++) {
    const a = Math.max(0, f - 1);
    const b = Math.min(n - 1, f + 1);
    const v = b > a ? (Math.hypot(x[b] - x[a], y[b] - y[a], z[b] - z[a]) * fps) / (b - a) : 0;
    cost[f] = Math.max((y[f] - floor) / height, v / speed);
  }
  return cost;
}
