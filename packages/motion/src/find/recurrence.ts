import type { Features } from './features';
import { series } from '../math/series';

/** Feature distance, metres, at which likeness has fallen to a third. */
const FADE = 0.22;

/**
 * A take against itself: how alike its instants are, 255 the same and 0 nothing alike, `row · size + column`. Rows and columns are `size`
 * instants spread evenly over frames `from` to `to` (columns) and `rowFrom` to `rowTo` (rows).
 *
 * Source: Eckmann, Kamphorst, Ruelle, *Recurrence Plots of Dynamical Systems*, 1987. Costs features × size².
 *
 * @example
 * recurrence(features(ground), [0, 100], [0, 100], 16).length; // 256
 */
export function recurrence(
  { frames, width, values }: Features,
  [from, to]: readonly [number, number],
  [rowFrom, rowTo]: readonly [number, number],
  size: number,
): Uint8ClampedArray {
  const at = (a: number, b: number, i: number) => Math.min(frames - 1, Math.max(0, Math.round(a + ((b - a) * i) / (size - 1)))) * width;
  const columns = Int32Array.from({ length: size }, (_, i) => at(from, to, i));
  const out = new Uint8ClampedArray(size * size);
  for (let r = 0; r < size; r++) {
    const a = at(rowFrom, rowTo, r);
    for (let c = 0; c < size; c++) {
      const b = columns[c];
      let sum = 0;
      for (let k = 0; k < width; k++) {
        const d = values[a + k] - values[b + k];
        sum += d * d;
      }
      out[r * size + c] = 255 * Math.exp(-Math.sqrt(sum) / FADE);
    }
  }
  return out;
}

/**
 * The pair of frames nearest to each other by their features within `reach` frames of a pair; `least` frames apart.
 *
 * @example
 * const pair = nearestPair(features(ground), best.from, best.to, 3, 20);
 * Math.abs(pair.from - best.from) <= 3; // true
 */
export function nearestPair(
  { frames, width, values }: Features,
  from: number,
  to: number,
  reach: number,
  least: number,
): { from: number; to: number } {
  let best = { from, to: Math.min(frames - 1, Math.max(to, from + least)) };
  let lowest = Infinity;
  for (let a = Math.max(0, from - reach); a <= Math.min(frames - 1, from + reach); a++) {
    for (let b = Math.max(a + least, to - reach); b <= Math.min(frames - 1, to + reach); b++) {
      let sum = 0;
      for (let k = 0; k < width; k++) sum += (values[a * width + k] - values[b * width + k]) ** 2;
      if (sum < lowest) {
        lowest = sum;
        best = { from: a, to: b };
      }
    }
  }
  return best;
}

/**
 * Frames that are nearer to a frame than their neighbours are, by their features, within a range; nearest in distance first.
 *
 * @example
 * partnersOf(features(ground), best.from, best.from + 20, motion.frames - 1).length > 0; // true
 */
export function partnersOf({ frames, width, values }: Features, frame: number, from: number, to: number): number[] {
  const [first, last] = [Math.max(0, from), Math.min(frames - 1, to)];
  const row = series(Math.max(0, last - first + 1), (i) => {
    let sum = 0;
    for (let k = 0; k < width; k++) sum += (values[frame * width + k] - values[(first + i) * width + k]) ** 2;
    return sum;
  });
  const out: number[] = [];
  for (let i = 1; i < row.length - 1; i++) if (row[i] <= row[i - 1] && row[i] < row[i + 1]) out.push(i);
  return out.sort((a, b) => row[a] - row[b]).map((i) => first + i);
}
