import type { Gait } from '../measure/gait';
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

/** Frames a second of the first, coarse pass. */
const COARSE = 30;

/**
 * Finds cycles. A coarse pass at 30 frames a second compares every two instants that lie between the shortest and the longest
 * cycle apart, by their features; from every footfall (or, where nobody walks, from every valley of the map) the best partners
 * are then refined at the full rate by the true, aligned distance.
 *
 * Idea: Kovar, Gleicher, Pighin, *Motion Graphs*, 2002. Costs features × pairs; a minute at 60 a second takes a few tens of
 * milliseconds.
 */
export function findLoops(gait: Gait, options: LoopOptions = {}): LoopSearch {
  const settings = { ...DEFAULTS, ...options };
  const { fps } = gait.motion;
  const step = Math.max(1, Math.round(fps / COARSE));
  const found = new Map<string, LoopCandidate>();
  const seen = features(gait);
  const map = distances(seen, step, Math.floor((settings.shortest * fps) / step), Math.ceil((settings.longest * fps) / step));
  const add = (from: number, to: number, startsOn: LoopCandidate['startsOn']) => {
    const candidate = refine(gait, seen, from, to, step, startsOn, settings);
    if (candidate) found.set(`${candidate.from}-${candidate.to}`, candidate);
  };
  const falls = (['left', 'right'] as const).flatMap((side) => footfalls(gait.contacts, side).map((frame) => ({ frame, side })));
  for (const { frame, side } of falls) {
    for (const to of map.valleysFrom(frame, 4)) add(frame, to, side);
  }
  const stands = standingStarts(gait, Math.round(0.5 * fps));
  for (const frame of stands) for (const to of map.valleysFrom(frame, 3)) if (to - frame >= settings.standing * fps) add(frame, to, null);
  const sorted = [...found.values()].sort((a, b) => b.score - a.score);
  return { candidates: thin(sorted, 0.12 * fps).slice(0, settings.most), pairs: map.pairs };
}

interface DistanceMap {
  readonly pairs: number;
  /** The nearest local minima over the cycle's length from a frame on: frames, nearest in distance first. */
  valleysFrom(frame: number, most: number): number[];
}

function distances({ frames, width, values }: Features, step: number, shortest: number, longest: number): DistanceMap {
  const n = Math.floor((frames - 1) / step) + 1;
  const lags = Math.max(0, Math.min(longest, n - 1) - shortest + 1);
  const map = new Float32Array(n * lags).fill(Infinity);
  let pairs = 0;
  for (let i = 0; i < n; i++) {
    const a = i * step * width;
    const count = Math.min(lags, n - i - shortest);
    for (let l = 0; l < count; l++) {
      const b = (i + shortest + l) * step * width;
      let sum = 0;
      for (let k = 0; k < width; k++) {
        const d = values[a + k] - values[b + k];
        sum += d * d;
      }
      map[i * lags + l] = sum; // written out here: this is the hot loop, width × pairs
    }
    pairs += Math.max(0, count);
  }
  return {
    pairs,
    valleysFrom(frame, most) {
      const i = Math.min(n - 1, Math.round(frame / step));
      const row = map.subarray(i * lags, (i + 1) * lags);
      const valleys: { lag: number; value: number }[] = [];
      for (let l = 1; l < lags - 1; l++) {
        if (row[l] <= row[l - 1] && row[l] < row[l + 1] && Number.isFinite(row[l + 1])) valleys.push({ lag: l, value: row[l] });
      }
      // The end of a take is no valley, yet a take cut to exactly one cycle has its partner there.
      const end = Math.min(lags, n - i - shortest) - 1;
      if (end > 0 && row[end] < row[end - 1]) valleys.push({ lag: end, value: row[end] });
      valleys.sort((x, y) => x.value - y.value);
      return valleys.slice(0, most).map(({ lag }) => Math.min(frames - 1, frame + (lag + shortest) * step));
    },
  };
}

function squaredDistance({ width, values }: Features, a: number, b: number): number {
  let sum = 0;
  for (let k = 0; k < width; k++) sum += (values[a * width + k] - values[b * width + k]) ** 2;
  return sum;
}

/** Frames, `every` apart, from which nobody takes a step for a second. */
function standingStarts(gait: Gait, every: number): number[] {
  const { contacts, motion } = gait;
  const both = (f: number) =>
    (['left', 'right'] as const).every((side) => contacts[side].some(({ from, to }) => from <= f && f + motion.fps <= to));
  const out: number[] = [];
  for (let f = 0; f < motion.frames; f += every) if (both(f)) out.push(f);
  return out;
}

function refine(
  gait: Gait,
  seen: Features,
  from: number,
  guess: number,
  step: number,
  startsOn: LoopCandidate['startsOn'],
  settings: Required<LoopOptions>,
): LoopCandidate | null {
  const { fps, frames } = gait.motion;
  const cost = (s: Seam) => s.poseCm + 0.1 * s.velocityCmS;
  let to = guess;
  let best: Seam | null = null;
  // Features rank the frames about the guess; the two nearest are measured.
  const near: { f: number; distance: number }[] = [];
  for (let f = Math.max(from + 1, guess - step - 1); f <= Math.min(frames - 1, guess + step + 1); f++) {
    near.push({ f, distance: squaredDistance(seen, from, f) });
  }
  near.sort((a, b) => a.distance - b.distance);
  for (const { f } of near.slice(0, 2)) {
    const s = seam(gait, from, f);
    if (!best || cost(s) < cost(best)) {
      best = s;
      to = f;
    }
  }
  if (!best) return null;
  const seconds = (to - from) / fps;
  if (seconds < settings.shortest * 0.95 || cost(best) > 14) return null;
  const strides = startsOn ? strideCount(gait, from, to, startsOn) : 0;
  if (strides === null) return null;
  return { from, to, seconds, strides, startsOn, score: score(best, strides, seconds, startsOn), seam: best };
}

/** Whole strides between a footfall and the same foot's later one near `to`; null where the cycle is not a whole number. */
function strideCount(gait: Gait, from: number, to: number, side: 'left' | 'right'): number | null {
  const stride = strideFrames(gait.contacts, from - 1, to + 1) ?? strideFrames(gait.contacts);
  if (stride === null) return null;
  const falls = footfalls(gait.contacts, side).filter((f) => f > from + stride / 2 && f < to + stride / 4);
  const strides = falls.length || Math.round((to - from) / stride);
  return strides > 0 && Math.abs((to - from) / stride - strides) < 0.2 * strides ? strides : null;
}

/**
 * Between 0 and 1: a product of how well pose, velocity, heading and height meet, a little less for each stride beyond the
 * first; a loop in which nobody walks gains with its length, for short ones look nervous.
 */
function score(s: Seam, strides: number, seconds: number, startsOn: LoopCandidate['startsOn']): number {
  const meets = Math.exp(-(s.poseCm / 6 + s.velocityCmS / 90 + Math.abs(s.headingDeg) / 25 + Math.abs(s.heightCm) / 10));
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
