import type { Groundwork } from '../measure/groundwork';
import { seam, type Seam } from '../measure/seam';
import { footfalls, strideFrames } from '../measure/strides';
import { features, type Features } from './features';

/** A cycle of `to − from` frames: frame `to` is where frame `from` comes round again. */
export interface LoopCandidate {
  readonly from: number;
  readonly to: number;
  readonly seconds: number;
  /** Whole strides; 0 for a loop in which nobody walks. */
  readonly strides: number;
  readonly startsOn: 'left' | 'right' | null;
  /** 0 to 1. */
  readonly score: number;
  readonly seam: Seam;
}

export interface LoopSearch {
  readonly candidates: readonly LoopCandidate[];
  /** How many pairs of frames were compared. */
  readonly pairs: number;
}

export interface LoopOptions {
  /** Cycles of a walker, seconds. */
  readonly shortest?: number;
  readonly longest?: number;
  /** At least this long where nobody walks. */
  readonly standing?: number;
  /** At most this many candidates. */
  readonly most?: number;
}

const DEFAULTS: Required<LoopOptions> = { shortest: 0.4, longest: 6, standing: 2.5, most: 40 };

/** A start and a likely partner of it. */
interface Valley {
  readonly from: number;
  readonly to: number;
  readonly startsOn: LoopCandidate['startsOn'];
  /** Squared feature distance, m². */
  readonly distance: number;
}

/** Partners that are measured besides the nearest one of every start. */
const MOST_OTHERS = 200;

/** A frame that much farther by its features than its neighbour is not measured beside it. */
const CLEARLY = 1.2;

/** Squared feature distance, m², of pairs that no alignment makes a loop of: twice what a candidate may cost. */
const HOPELESS = 0.28 ** 2;

/** Where there are no feet to begin with, cycles begin so often, seconds. */
const NOBODYS_SECONDS = 0.1;

/** Frames a second of the first, coarse pass. */
const COARSE = 30;

/**
 * Finds cycles. From every footfall (or, where nobody walks, from instants of standing) a coarse pass at 30 frames a second compares the
 * instants that lie between the shortest and the longest cycle on, by their features; the best of its valleys are then refined at the full
 * rate by the true, aligned distance. Of what is no person (`posesOnly`) every tenth of a second is a start, and cycles have no strides.
 *
 * Idea: Kovar, Gleicher, Pighin, *Motion Graphs*, 2002. Costs features × pairs; a minute at 60 a second takes a few tens of
 * milliseconds.
 *
 * @example
 * findLoops(ground).candidates[0].strides; // 1
 */
export function findLoops(ground: Groundwork, options: LoopOptions = {}): LoopSearch {
  const settings = { ...DEFAULTS, ...options };
  const { fps } = ground.motion;
  const step = Math.max(1, Math.round(fps / COARSE));
  const found = new Map<string, LoopCandidate>();
  const seen = features(ground);
  let pairs = 0;
  const first: Valley[] = [];
  const others: Valley[] = [];
  const search = (from: number, most: number, startsOn: LoopCandidate['startsOn'], least = 0) => {
    const shortest = Math.floor(settings.shortest * fps);
    const row = distancesFrom(seen, from, step, shortest, Math.ceil(settings.longest * fps));
    pairs += row.length;
    valleys(row)
      .map((lag) => ({ from, to: Math.min(seen.frames - 1, from + shortest + lag * step), startsOn, distance: row[lag] }))
      .filter(({ to }) => to - from >= least)
      .slice(0, most)
      .forEach((valley, i) => (i === 0 ? first : others).push(valley));
  };
  for (const side of ['left', 'right'] as const) for (const frame of footfalls(ground.contacts, side)) search(frame, 16, side);
  if (ground.isNobody) {
    const every = Math.max(1, Math.round(NOBODYS_SECONDS * fps));
    for (let frame = 0; frame < ground.motion.frames; frame += every) search(frame, 4, null);
  }
  for (const frame of standingStarts(ground, Math.round(0.5 * fps))) search(frame, 3, null, settings.standing * fps);
  // The nearest partner of every start is measured, and of the others those that promise most.
  const promising = others.sort((p, q) => p.distance - q.distance).slice(0, MOST_OTHERS);
  for (const valley of [...first, ...promising]) {
    const candidate = refine(ground, seen, valley, step, settings);
    if (candidate) found.set(`${candidate.from}-${candidate.to}`, candidate);
  }
  // Who stands is apart from who goes: an idle is no worse a walk.
  const sorted = [...found.values()].sort((a, b) => Number(b.strides > 0) - Number(a.strides > 0) || b.score - a.score);
  return { candidates: thin(sorted, 0.12 * fps).slice(0, settings.most), pairs };
}

/** Squared feature distances from a frame to those `shortest` to `longest` frames on, every `step` frames, as far as the take goes. */
function distancesFrom({ frames, width, values }: Features, from: number, step: number, shortest: number, longest: number): Float32Array {
  const count = Math.max(0, Math.floor((Math.min(longest, frames - 1 - from) - shortest) / step) + 1);
  const row = new Float32Array(count);
  const a = from * width;
  for (let l = 0; l < count; l++) {
    const b = (from + shortest + l * step) * width;
    let sum = 0;
    for (let k = 0; k < width; k++) {
      const d = values[a + k] - values[b + k];
      sum += d * d;
    }
    row[l] = sum; // written out here: this is the hot loop, width × pairs
  }
  return row;
}

/** The nearest local minima of a row: indices, nearest in distance first. */
function valleys(row: Float32Array): number[] {
  const found: number[] = [];
  for (let l = 1; l < row.length - 1; l++) if (row[l] <= row[l - 1] && row[l] < row[l + 1] && row[l] < HOPELESS) found.push(l);
  // The end of a take is no valley, yet a take cut to exactly one cycle has its partner there.
  const end = row.length - 1;
  if (end > 0 && row[end] < row[end - 1]) found.push(end);
  return found.sort((a, b) => row[a] - row[b]);
}

function squaredDistance({ width, values }: Features, a: number, b: number): number {
  let sum = 0;
  for (let k = 0; k < width; k++) sum += (values[a * width + k] - values[b * width + k]) ** 2;
  return sum;
}

/** Frames, `every` apart, from which nobody takes a step for a second. */
function standingStarts(ground: Groundwork, every: number): number[] {
  const { contacts, motion } = ground;
  const both = (f: number) =>
    (['left', 'right'] as const).every((side) => contacts[side].some(({ from, to }) => from <= f && f + motion.fps <= to));
  const out: number[] = [];
  for (let f = 0; f < motion.frames; f += every) if (both(f)) out.push(f);
  return out;
}

function refine(
  ground: Groundwork,
  seen: Features,
  { from, to: guess, startsOn }: Valley,
  step: number,
  settings: Required<LoopOptions>,
): LoopCandidate | null {
  const { fps, frames } = ground.motion;
  const cost = (s: Seam) => s.poseCm + 0.1 * s.velocityCmS;
  let to = guess;
  let best: Seam | null = null;
  // Features rank the frames about the guess; the two nearest are measured.
  const near: { f: number; distance: number }[] = [];
  for (let f = Math.max(from + 1, guess - step - 1); f <= Math.min(frames - 1, guess + step + 1); f++) {
    near.push({ f, distance: squaredDistance(seen, from, f) });
  }
  near.sort((a, b) => a.distance - b.distance);
  for (const { f, distance } of near.slice(0, 2)) {
    if (best && distance > CLEARLY * near[0].distance) break;
    const s = seam(ground, from, f);
    if (!best || cost(s) < cost(best)) {
      best = s;
      to = f;
    }
  }
  if (!best) return null;
  const seconds = (to - from) / fps;
  if (seconds < settings.shortest * 0.95 || cost(best) > 14) return null;
  const strides = startsOn ? strideCount(ground, from, to, startsOn) : ground.isNobody || standsThrough(ground, from, to) ? 0 : null;
  if (strides === null) return null;
  return { from, to, seconds, strides, startsOn, score: score(best, strides, seconds, startsOn), seam: best };
}

/** Whole strides between a footfall and the same foot's later one near `to`; null where the cycle is not a whole number. */
function strideCount(ground: Groundwork, from: number, to: number, side: 'left' | 'right'): number | null {
  const stride = strideFrames(ground.contacts, from - 1, to + 1) ?? strideFrames(ground.contacts);
  if (stride === null) return null;
  const falls = footfalls(ground.contacts, side).filter((f) => f > from + stride / 2 && f < to + stride / 4);
  const strides = falls.length || Math.round((to - from) / stride);
  if (strides === 0 || Math.abs((to - from) / stride - strides) >= 0.2 * strides) return null;
  return stepsThrough(ground, from, to, stride) ? strides : null;
}

/** Somebody who steps does not stand on both feet for longer than this share of a stride, and climbs less than this share of how far he goes. */
const MOST_STANDING = 0.85;
const MOST_CLIMB = 0.7;

/** Strides are made of steps: each foot that bears in the cycle leaves the ground in it, nobody stands, and nobody climbs a ladder. */
function stepsThrough({ contacts, globals, body }: Groundwork, from: number, to: number, stride: number): boolean {
  const within = (['left', 'right'] as const).map((side) => contacts[side].filter((c) => c.from < to && c.to > from));
  const leaves = within.map((all) => all.some((c) => c.to > from && c.to < to) || all.some((c) => c.from > from && c.from <= to));
  // A foot that is held up all the while, as in hops on the other, has nothing to leave.
  if (within.some((all, i) => all.length > 0 && !leaves[i]) || within.every((all) => all.length === 0)) return false;
  const [left, right] = within;
  for (const a of left) {
    for (const b of right) {
      const both = Math.min(a.to, b.to, to) - Math.max(a.from, b.from, from);
      if (both > MOST_STANDING * stride) return false;
    }
  }
  const hips = (f: number, k: number) => globals.positions[(f * globals.joints + body.hips) * 3 + k];
  const climb = Math.abs(hips(to, 1) - hips(from, 1));
  return climb < 0.1 || climb < MOST_CLIMB * Math.hypot(hips(to, 0) - hips(from, 0), hips(to, 2) - hips(from, 2));
}

/** Nobody lands a foot between two instants of standing. */
const standsThrough = ({ contacts }: Groundwork, from: number, to: number): boolean =>
  (['left', 'right'] as const).every((side) => contacts[side].some((c) => c.from <= from && c.to >= to));

/** A cycle on an arc of so many degrees is worth a third of a straight one: enough to put a straight one first where both are there. */
const ARC = 250;

/**
 * Between 0 and 1: a product of how well pose, velocity and height meet, a little less for each stride beyond the
 * first; a loop in which nobody walks gains with its length, for short ones look nervous. Who goes may turn: his loop is an arc; who stands may not.
 */
function score(s: Seam, strides: number, seconds: number, startsOn: LoopCandidate['startsOn']): number {
  const turn = Math.abs(s.headingDeg) / (strides > 0 ? ARC : 25);
  const meets = Math.exp(-(s.poseCm / 6 + s.velocityCmS / 90 + turn + Math.abs(s.heightCm) / 10));
  const length = strides > 0 ? 0.97 ** (strides - 1) : 0.6 + 0.15 * Math.min(1, seconds / 5);
  return Math.round(meets * length * (startsOn === 'right' ? 0.99 : 1) * 1000) / 1000;
}

/** Leaves out what begins and ends within some frames of a better one. */
function thin(sorted: readonly LoopCandidate[], near: number): LoopCandidate[] {
  const kept: LoopCandidate[] = [];
  for (const candidate of sorted) {
    if (!kept.some((k) => Math.abs(k.from - candidate.from) < near && Math.abs(k.to - candidate.to) < near)) kept.push(candidate);
  }
  return kept;
}
