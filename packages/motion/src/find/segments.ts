import { DEGREES, wrapAngle } from '../math/angles';
import { movingAverage } from '../math/filter';
import { median, quantile } from '../math/statistics';
import type { Contacts, Interval } from '../model/contacts';
import type { Groundwork } from '../measure/groundwork';
import { legLength } from '../measure/leg-length';
import { footfalls, strideFrames } from '../measure/strides';
import { series } from '../math/series';

export const SEGMENT_KINDS = ['idle', 'walk', 'run', 'sneak', 'turn', 'start', 'stop', 'flight'] as const;
export type SegmentKind = (typeof SEGMENT_KINDS)[number];

/** What somebody does for a while. */
export interface Segment {
  readonly kind: SegmentKind;
  /** Frames; the first of it, the first after. */
  readonly from: number;
  readonly to: number;
  readonly speedMps: number;
  /** How far the facing turns over it, degrees, positive to the left. */
  readonly turnDeg: number;
  /** Where to, against the facing; null for one who stays. */
  readonly direction: 'forward' | 'backward' | 'left' | 'right' | null;
}

/** Feet that stay down for this long stand, seconds; a movement shorter than this is a shifted foot. */
export const STAND_SECONDS = 0.55;
const LEAST_MOVE_SECONDS = 0.2;
/** A start ends, and a stop begins, at this share of the speed gone at. */
export const UP_TO_SPEED = 0.85;
/** Turning is quicker than this, degrees a second, over at least so many degrees. */
export const TURNING = 25;
const LEAST_TURN = 30;
/** Hips lower than this share of where straight legs would have them creep. */
const CROUCHED = 0.92;

/**
 * Reads a take into what is done in it. Feet that stay down stand; between, a movement is a turn on the spot, hops, or a gait with its
 * start and stop, and a bend of the way is a turn of its own. The gait is told by duty (a run has none of its frames on both feet) and
 * height of the hips.
 *
 * @example
 * segments(ground).map(({ kind }) => kind); // ['walk']
 */
export function segments(ground: Groundwork): Segment[] {
  const { motion, contacts } = ground;
  const { fps, frames } = motion;
  const kinds = new Array<SegmentKind>(frames).fill('idle');
  const way = wayOf(ground);
  for (const move of movements(contacts, frames)) {
    const fill = (kind: SegmentKind, from = move.from, to = move.to) => kinds.fill(kind, Math.max(move.from, from), Math.min(move.to, to));
    const went = Math.hypot(way.x[move.to - 1] - way.x[move.from], way.z[move.to - 1] - way.z[move.from]);
    const turned = Math.abs(way.heading[move.to - 1] - way.heading[move.from]) * DEGREES;
    if (isHopping(contacts, move)) {
      fill('flight');
      continue;
    }
    if (went < 0.6 && turned > 20) {
      fill('turn');
      continue;
    }
    fill(gaitIn(ground, move));
    const speeds = way.speed.subarray(move.from, move.to);
    const steady = UP_TO_SPEED * quantile(speeds, 0.75);
    const first = move.from + speeds.findIndex((v) => v >= steady);
    const last = move.from + speeds.findLastIndex((v) => v >= steady) + 1;
    for (const { from, to } of turnsOf(way.rate, move, fps)) fill('turn', from, to);
    if (move.from > 0) fill('start', move.from, first);
    if (move.to < frames) fill('stop', last, move.to);
  }
  return runsOf(kinds).map((run) => ({ ...run, ...figuresOf(way, run, fps) }));
}

interface Way {
  readonly x: Float64Array;
  readonly z: Float64Array;
  /** Metres a second, the ripple of a step averaged out. */
  readonly speed: Float64Array;
  /** Radians, and degrees a second. */
  readonly heading: Float64Array;
  readonly rate: Float64Array;
}

function wayOf({ globals, body, headings, contacts, motion: { fps } }: Groundwork): Way {
  const step = Math.max(3, (strideFrames(contacts) ?? fps) / 2);
  const hips = (k: number) => Float64Array.from(headings, (_, f) => globals.positions[(f * globals.joints + body.hips) * 3 + k]);
  const x = movingAverage(hips(0), step);
  const z = movingAverage(hips(2), step);
  const heading = movingAverage(movingAverage(headings, 2 * step), step / 2);
  const between = (f: number, values: Float64Array) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(values.length - 1, f + 1)];
    return b > a ? ((values[b] - values[a]) * fps) / (b - a) : 0;
  };
  return {
    x,
    z,
    speed: x.map((_, f) => Math.hypot(between(f, x), between(f, z))),
    heading,
    rate: heading.map((_, f) => between(f, heading) * DEGREES),
  };
}

/**
 * Stretches in which feet leave the ground, pauses of both feet on it left in.
 *
 * @example
 * movements({ left: [], right: [], fps: 60 }, 120).length; // 1
 */
export function movements({ left, right, fps }: Pick<Contacts, 'left' | 'right' | 'fps'>, frames: number): Interval[] {
  const stands = new Uint8Array(frames);
  for (const { from, to } of left) stands.fill(1, from, to);
  const other = new Uint8Array(frames);
  for (const { from, to } of right) other.fill(1, from, to);
  const out: { from: number; to: number }[] = [];
  for (let f = 0; f < frames; f++) {
    if (stands[f] && other[f]) continue;
    const last = out.at(-1);
    if (last && f - last.to < STAND_SECONDS * fps) last.to = f + 1;
    else out.push({ from: f, to: f + 1 });
  }
  // Two feet down at the very ends of a take are a step that was cut off, not a stand.
  const near = STAND_SECONDS * fps;
  return out
    .filter(({ from, to }) => to - from >= LEAST_MOVE_SECONDS * fps)
    .map(({ from, to }) => ({ from: from < near ? 0 : from, to: to > frames - near ? frames : to }));
}

/** Whether feet do not take turns while the body leaves the ground: both land at once, or one lands again and again. */
export function isHopping({ left, right, fps }: Contacts, { from, to }: Interval): boolean {
  const landings = [...left.map((c) => ({ ...c, side: 0 })), ...right.map((c) => ({ ...c, side: 1 }))]
    .filter((c) => c.from > from && c.from <= to)
    .sort((a, b) => a.from - b.from);
  if (landings.length < 2) return false;
  let together = 0;
  let again = 0;
  for (let i = 1; i < landings.length; i++) {
    const isAtOnce = landings[i].from - landings[i - 1].from < 0.08 * fps;
    if (isAtOnce) together++;
    else if (landings[i].side === landings[i - 1].side) again++;
  }
  return together + again > 0.4 * (landings.length - together);
}

/**
 * The gait of a stretch of frames in which somebody goes: by duty, and by how high the hips are.
 *
 * @param isSlow slower than anybody runs: then it is none, whatever the contacts say
 */
export function gaitIn(ground: Groundwork, { from, to }: Interval, isSlow = false): 'walk' | 'run' | 'sneak' {
  const { contacts, globals, body, soles } = ground;
  const stride = strideFrames(contacts, from, to) ?? strideFrames(contacts);
  const stances = (['left', 'right'] as const).flatMap((side) => contacts[side].filter((c) => c.from > from && c.to < to));
  const duty = stride && stances.length > 0 ? median(stances.map((c) => c.to - c.from)) / stride : 1;
  if (duty < 0.5 && !isSlow) return 'run';
  const leg = legLength(globals, body);
  const height = (j: number, f: number) => globals.positions[(f * globals.joints + j) * 3 + 1];
  const ankle = quantile(
    series(globals.frames, (f) => height(body.legs.left.ankle, f)),
    0.1,
  );
  const hip = median(series(to - from, (i) => height(body.legs.left.hip, from + i)));
  return (hip - soles.floor) / (leg + ankle - soles.floor) < CROUCHED ? 'sneak' : 'walk';
}

/**
 * Where the way bends.
 *
 * @example
 * turnsOf(new Float64Array(60), { from: 0, to: 60 }, 60); // []
 */
export function turnsOf(rate: ArrayLike<number>, { from, to }: Interval, fps: number): Interval[] {
  const out: Interval[] = [];
  for (let f = from; f < to; f++) {
    const sign = Math.sign(rate[f]);
    if (Math.abs(rate[f]) < TURNING) continue;
    const start = f;
    let sum = 0;
    while (f < to && rate[f] * sign >= TURNING) sum += rate[f++] / fps;
    if (Math.abs(sum) >= LEAST_TURN) out.push({ from: start, to: f });
  }
  return out;
}

/**
 * @example
 * runsOf(['walk', 'walk', 'stand']); // [{ kind: 'walk', from: 0, to: 2 }, { kind: 'stand', from: 2, to: 3 }]
 */
export function runsOf<Kind>(kinds: readonly Kind[]): { kind: Kind; from: number; to: number }[] {
  const out: { kind: Kind; from: number; to: number }[] = [];
  kinds.forEach((kind, f) => {
    const last = out.at(-1);
    if (last?.kind === kind) last.to = f + 1;
    else out.push({ kind, from: f, to: f + 1 });
  });
  return out;
}

function figuresOf(way: Way, { kind, from, to }: Pick<Segment, 'kind' | 'from' | 'to'>, fps: number) {
  const last = to - 1;
  const dx = way.x[last] - way.x[from];
  const dz = way.z[last] - way.z[from];
  const speedMps = last > from ? (Math.hypot(dx, dz) * fps) / (last - from) : 0;
  // A bend counts from where it begins to bend to where it is straight again.
  const reach = (f: number, step: number) => {
    let at = f;
    while (kind === 'turn' && Math.abs(at - f) < 0.8 * fps && Math.abs(way.rate[at + step] ?? 0) > 5) at += step;
    return way.heading[at];
  };
  const turnDeg = (reach(last, 1) - reach(from, -1)) * DEGREES;
  // Against the facing half-way, which on a bend is that of the chord.
  const off = wrapAngle(Math.atan2(dx, dz) - way.heading[(from + last) >> 1]) * DEGREES;
  const isGoing = kind !== 'idle' && speedMps > 0.15;
  const direction: Segment['direction'] = !isGoing
    ? null
    : Math.abs(off) < 45
      ? 'forward'
      : Math.abs(off) > 135
        ? 'backward'
        : off > 0
          ? 'left'
          : 'right';
  return { speedMps, turnDeg, direction };
}

/** Seconds of a take that are one kind in two readings of it, as a share. */
export function sameKind(a: readonly Pick<Segment, 'kind' | 'from' | 'to'>[], b: readonly Pick<Segment, 'kind' | 'from' | 'to'>[]): number {
  let same = 0;
  let all = 0;
  for (const p of a) {
    all += p.to - p.from;
    for (const q of b) if (p.kind === q.kind) same += Math.max(0, Math.min(p.to, q.to) - Math.max(p.from, q.from));
  }
  return same / all;
}

export const footfallsIn = (contacts: Contacts, { from, to }: Interval): number[] =>
  (['left', 'right'] as const).flatMap((side) => footfalls(contacts, side).filter((f) => f >= from && f < to)).sort((a, b) => a - b);
