import { mean, median } from '../math/statistics';
import { poseDistance, type Poses } from './poses';

/** The new take is searched at this rate, or lower where it is very long. */
const COARSE_FPS = 30;
const MOST_COARSE = 40_000;
/** Poses farther apart than this many leg lengths are simply different. */
const DIFFERENT = 0.12;
/** Rates at which the one or the other may have been read wrongly. */
const RATES = [24, 25, 30, 50, 60, 90, 100, 120, 240];
/** Clocks of suits are not farther apart than this. */
const MOST_TILT = 0.02;
/** Places are told apart by this many seconds. */
const APART_SECONDS = 0.3;

/** Instants of the old take, seconds, and a place for them: `pace · t + offset` in the new one. */
export interface Line {
  readonly pace: number;
  readonly offset: number;
  /** Mean capped squared distance of the anchors, those outside counted as different. */
  readonly cost: number;
  /** The offset of the best line some way off it. */
  readonly next: number;
}

/** Some frames from one to another, both included. */
export function spread(from: number, to: number, most: number): number[] {
  const count = Math.min(most, to - from + 1);
  return Array.from({ length: count }, (_, i) => Math.round(from + ((to - from) * i) / Math.max(1, count - 1)));
}

/** 1 first: a wrong rate must explain more, not as much. */
export function paces(): number[] {
  const all = RATES.flatMap((a) => RATES.map((b) => a / b)).filter((pace) => pace >= 0.2 && pace <= 5);
  return [1, ...new Set(all.filter((pace) => pace !== 1))];
}

/** The line that puts the anchors on their likes, to a coarse frame. */
export function bestLine(before: Poses, after: Poses, anchors: readonly number[], tried: readonly number[]): Line {
  const step = Math.max(1, Math.round(after.fps / COARSE_FPS), Math.ceil(after.frames / MOST_COARSE));
  const n = Math.floor((after.frames - 1) / step) + 1;
  const perSecond = after.fps / step;
  const distances = new Float32Array(anchors.length * n);
  anchors.forEach((anchor, a) => {
    for (let i = 0; i < n; i++) distances[a * n + i] = poseDistance(before, anchor, after, i * step);
  });
  // What is no nearer than any two frames of these takes are tells nothing, be it there or not.
  const cap = Math.min(DIFFERENT ** 2, median(distances.filter((_, i) => i % 7 === 0)));
  for (let i = 0; i < distances.length; i++) distances[i] = Math.min(cap, distances[i]);
  let found: Line = { pace: 1, offset: 0, cost: Infinity, next: 0 };
  for (const pace of tried) {
    const places = anchors.map((anchor) => Math.round((pace * anchor * perSecond) / before.fps));
    const last = places[places.length - 1];
    const costs = new Float64Array(last + n);
    for (let shift = -last; shift < n; shift++) {
      let sum = 0;
      for (let a = 0; a < places.length; a++) {
        const i = places[a] + shift;
        sum += i >= 0 && i < n ? distances[a * n + i] : cap;
      }
      costs[shift + last] = sum / anchors.length;
    }
    const at = leastAt(costs);
    if (costs[at] >= found.cost * (pace === 1 ? 1 : 0.8)) continue;
    const others = costs.map((cost, i) => (Math.abs(i - at) > APART_SECONDS * perSecond ? cost : Infinity));
    found = { pace, offset: (at - last) / perSecond, cost: costs[at], next: (leastAt(others) - last) / perSecond };
  }
  return found;
}

function leastAt(values: Float64Array): number {
  let at = 0;
  for (let i = 1; i < values.length; i++) if (values[i] < values[at]) at = i;
  return at;
}

/** Whether an anchor's pose is in its place. */
export function isLike(before: Poses, after: Poses, anchor: number, { pace, offset }: Line): boolean {
  const t = (pace * (anchor / before.fps) + offset) * after.fps;
  return t >= 0 && t <= after.frames - 1 && poseDistance(before, anchor, after, t) < (DIFFERENT / 2) ** 2;
}

/**
 * How telling a line is: the mean share of the new take that is more than twice as far from an anchor as its like is. Of a stance any
 * other stance is about as near; of a captured instant only itself is.
 */
export function evidence(before: Poses, after: Poses, anchors: readonly number[], { pace, offset }: Line): number {
  const seen = spread(0, after.frames - 1, 600);
  const shares = anchors.map((anchor) => {
    const t = (pace * (anchor / before.fps) + offset) * after.fps;
    const like = 4 * poseDistance(before, anchor, after, t) + 1e-6;
    return seen.filter((f) => poseDistance(before, anchor, after, f) > like).length / seen.length;
  });
  return mean(shares);
}

/**
 * Settles a line between frames: every anchor's own best instant about it, the median of which is the offset, and the median slope of
 * which the pace, where that makes half a frame over the take.
 */
export function settle(before: Poses, after: Poses, anchors: readonly number[], line: Line, hasSlope = true): Line {
  line = { ...line, offset: line.offset + jointShift(before, after, anchors, line) };
  const own = anchors.flatMap((anchor) => {
    const t = anchor / before.fps;
    const shift = instant(before, after, anchor, (line.pace * t + line.offset) * after.fps);
    return shift === null ? [] : [{ t, residual: shift / after.fps }];
  });
  if (own.length < Math.max(3, 0.1 * anchors.length)) return line;
  const seconds = own[own.length - 1].t - own[0].t;
  const slopes = hasSlope
    ? own.flatMap((a, i) => own.slice(i + 1).flatMap((b) => (b.t - a.t > 0.3 * seconds ? [(b.residual - a.residual) / (b.t - a.t)] : [])))
    : [];
  const slope = slopes.length > 0 ? median(slopes) : 0;
  const tilt = Math.abs(slope) * seconds * after.fps > 0.5 && Math.abs(slope) < MOST_TILT * line.pace ? slope : 0;
  const pace = line.pace + tilt;
  const shift = median(own.map(({ t, residual }) => residual - tilt * t));
  const offset = (line.offset + shift) * after.fps;
  // Deliveries of the same samples are whole frames apart.
  const ratio = (pace * after.fps) / before.fps;
  const isWhole = Math.abs(ratio - Math.round(ratio)) < 1e-9 && Math.abs(offset - Math.round(offset)) < 0.2;
  return { ...line, pace, offset: (isWhole ? Math.round(offset) : offset) / after.fps };
}

/** The shift of some frames, in seconds, that suits all anchors together best. */
function jointShift(before: Poses, after: Poses, anchors: readonly number[], { pace, offset }: Line): number {
  const reach = Math.ceil((1.5 * after.fps) / COARSE_FPS);
  const at = (anchor: number) => (pace * (anchor / before.fps) + offset) * after.fps;
  const inside = anchors.filter((anchor) => at(anchor) >= reach && at(anchor) <= after.frames - 1 - reach);
  let found = 0;
  let least = Infinity;
  for (let k = -reach; k <= reach; k++) {
    const cost = inside.reduce((sum, anchor) => sum + poseDistance(before, anchor, after, at(anchor) + k), 0);
    if (cost < least) {
      least = cost;
      found = k;
    }
  }
  return found / after.fps;
}

/** How far, in frames, the best instant for an anchor lies from where it is looked for; null where all are alike. */
function instant(before: Poses, after: Poses, anchor: number, expected: number): number | null {
  const reach = Math.max(3, Math.ceil(0.1 * after.fps));
  let at = 0;
  let least = Infinity;
  let most = 0;
  const value = (k: number) => poseDistance(before, anchor, after, expected + k);
  for (let k = -reach; k <= reach; k++) {
    if (expected + k < 0 || expected + k > after.frames - 1) continue;
    const d = value(k);
    most = Math.max(most, d);
    if (d < least) {
      least = d;
      at = k;
    }
  }
  if (Math.abs(at) === reach || most < 4 * least + 1e-5 || least > (DIFFERENT / 2) ** 2) return null;
  const [a, b] = [value(at - 1), value(at + 1)];
  const bend = a + b - 2 * least;
  return bend > 0 ? at + Math.max(-0.5, Math.min(0.5, (a - b) / (2 * bend))) : at;
}
