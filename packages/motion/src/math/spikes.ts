import { median } from './statistics';

/** Frames that stand off from where the frames on both sides of them lead. */
export interface Spike {
  readonly from: number;
  /** The first frame after it. */
  readonly to: number;
  /** How far it stands off at the most, in the curves' unit. */
  readonly off: number;
}

/** Longest spike, frames: what takes longer is a movement, however odd. */
const LONGEST = 3;
/** How predictable a movement is is looked at over so much on both sides, seconds. */
const AROUND = 0.35;
/** A spike stands off so many times what the frames about it do, and so many deviations of the noise. */
const TIMES = 7;
const NOISES = 9;
/** Frames on each side that lead over it. */
const SIDE = 3;
/** Into a spike and out of it the curve steps so many times as far as it does beside it. */
const STEPS = 2.2;
/** At once it goes this share of how far it stands off: a movement, however quick, gathers way. */
const SUDDEN = 0.6;

/**
 * Finds single and few frames that are off: told from quick movement by what both sides predict, and by how well they predict the frames about it.
 *
 * @param channels curves of one thing
 * @param noise the standard deviation of one curve's noise
 * @param least what stands off by less is none, in the curves' unit
 * @returns in order, none overlapping
 */
export function findSpikes(channels: readonly Float64Array[], noise: number, fps: number, least: number): Spike[] {
  const frames = channels[0].length;
  const floor = Math.max(least, NOISES * noise * Math.sqrt(channels.length));
  const usual = residuals(channels, 1);
  const candidates: (Spike & { readonly score: number })[] = [];
  for (let length = 1; length <= LONGEST; length++) {
    const off = residuals(channels, length);
    for (let f = SIDE; f + length + SIDE <= frames; f++) {
      if (off[f] < floor || !stepsInAndOut(channels, f, length, off[f])) continue;
      const expected = Math.max(floor / TIMES, usualAbout(usual, f, length, Math.round(AROUND * fps)));
      const score = off[f] / expected;
      if (score >= TIMES) candidates.push({ from: f, to: f + length, off: off[f], score });
    }
  }
  // The plainest first; of those that overlap the others are its echo. A long one must stand out as much as a short one in it.
  candidates.sort((a, b) => b.score / Math.sqrt(b.to - b.from) - a.score / Math.sqrt(a.to - a.from));
  const taken: Spike[] = [];
  for (const { from, to, off } of candidates) {
    const isFree = taken.every((other) => to + SIDE <= other.from || from >= other.to + SIDE);
    if (isFree) taken.push({ from, to, off });
  }
  return taken.sort((a, b) => a.from - b.from);
}

/** For every frame how far the `length` frames from it on are from where both sides lead, on the root of the mean square. */
function residuals(channels: readonly Float64Array[], length: number): Float64Array {
  const frames = channels[0].length;
  const out = new Float64Array(frames);
  const weights = bridgeWeights(length);
  for (let f = SIDE; f + length + SIDE <= frames; f++) {
    let sum = 0;
    for (const values of channels) {
      for (let k = 0; k < length; k++) {
        let led = 0;
        for (let i = 0; i < SIDE; i++) led += weights[k][i] * values[f - SIDE + i] + weights[k][SIDE + i] * values[f + length + i];
        sum += (values[f + k] - led) ** 2;
      }
    }
    out[f] = Math.sqrt(sum / length);
  }
  return out;
}

/**
 * Whether the curves step away at `from` and back after `length` frames, further than they go from frame to frame on both
 * sides, and most of the way at once. @param off how far it stands off */
function stepsInAndOut(channels: readonly Float64Array[], from: number, length: number, off: number): boolean {
  const to = from + length;
  let [into, out, back] = [0, 0, 0];
  const beside = new Float64Array(2 * (SIDE - 1));
  for (const v of channels) {
    const [a, b] = [v[from] - v[from - 1], v[to] - v[to - 1]];
    into += a * a;
    out += b * b;
    back += a * b;
    for (let i = 0; i < SIDE - 1; i++) {
      beside[2 * i] += (v[from - 1 - i] - v[from - 2 - i]) ** 2;
      beside[2 * i + 1] += (v[to + i + 1] - v[to + i]) ** 2;
    }
  }
  return back < 0 && Math.min(into, out) > Math.max(STEPS ** 2 * Math.max(...beside), (SUDDEN * off) ** 2);
}

/** The middle of what frames about a candidate stand off by, itself left out. */
function usualAbout(usual: Float64Array, from: number, length: number, around: number): number {
  const near: number[] = [];
  for (let f = Math.max(SIDE, from - around); f < Math.min(usual.length - SIDE, from + length + around); f++)
    if (f < from - SIDE || f >= from + length + SIDE) near.push(usual[f]);
  return near.length > 0 ? median(Float64Array.from(near)) : 0;
}

const kept = new Map<number, readonly (readonly number[])[]>();

/** What the frames on both sides count for each frame between them: the cubic that is nearest to all of them. */
export function bridgeWeights(length: number): readonly (readonly number[])[] {
  const known = kept.get(length);
  if (known) return known;
  const middle = (length - 1) / 2;
  const places = [...Array.from({ length: SIDE }, (_, i) => i - SIDE), ...Array.from({ length: SIDE }, (_, i) => length + i)].map(
    (x) => (x - middle) / (middle + SIDE),
  );
  const powers = (x: number) => [1, x, x * x, x * x * x];
  const normal = [0, 1, 2, 3].map((i) => [0, 1, 2, 3].map((j) => places.reduce((sum, x) => sum + powers(x)[i] * powers(x)[j], 0)));
  const inverse = inverted(normal);
  const weights = Array.from({ length }, (_, k) => {
    const at = powers((k - middle) / (middle + SIDE));
    const row = [0, 1, 2, 3].map((j) => at.reduce((sum, v, i) => sum + v * inverse[i][j], 0));
    return places.map((x) => powers(x).reduce((sum, v, j) => sum + v * row[j], 0));
  });
  kept.set(length, weights);
  return weights;
}

/** A small matrix inverted by elimination. */
function inverted(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...row.map((_, j) => Number(i === j))]);
  for (let i = 0; i < n; i++) {
    const pivot = rows.slice(i).reduce((best, row, k) => (Math.abs(row[i]) > Math.abs(rows[best][i]) ? i + k : best), i);
    [rows[i], rows[pivot]] = [rows[pivot], rows[i]];
    const scale = rows[i][i];
    rows[i] = rows[i].map((v) => v / scale);
    for (let k = 0; k < n; k++) {
      if (k === i) continue;
      const by = rows[k][i];
      rows[k] = rows[k].map((v, j) => v - by * rows[i][j]);
    }
  }
  return rows.map((row) => row.slice(n));
}

/** In place: puts a spike's frames where both sides lead. */
export function bridgeSpike(channels: readonly Float64Array[], { from, to }: Pick<Spike, 'from' | 'to'>): void {
  const weights = bridgeWeights(to - from);
  for (const values of channels) {
    const led = weights.map((row) => {
      let sum = 0;
      for (let i = 0; i < SIDE; i++) sum += row[i] * values[from - SIDE + i] + row[SIDE + i] * values[to + i];
      return sum;
    });
    led.forEach((value, k) => (values[from + k] = value));
  }
}
