import { LRUCache } from 'lru-cache';
import { lowPass } from './filter';

/** Edges of the bands that a curve is taken apart into, hertz; what is below the last is never touched. */
const EDGES = [24, 17, 12, 8.5, 6, 4.2, 3] as const;
/** How strong a band is is looked at over so many of its own periods on both sides of an instant. */
const PERIODS = 0.8;
/** In the first look nothing is kept of a band that is as strong as noise may be now and then: so many times the noise's mean. */
const DOUBT = 1.3;

/**
 * Takes noise out of a curve without delay. It is taken apart into bands by zero-phase low-passes; at every instant a band keeps the share of it
 * that is movement. What stands still is smoothed most, and a landing keeps its edge.
 *
 * The rule is Wiener's, local in time and band (Lee, *Digital Image Enhancement and Noise Filtering by Use of Local Statistics*, 1980), and made
 * twice: the first result says more exactly than the noisy curve how much movement there is (Ghael, Sayeed, Baraniuk, 1997).
 *
 * @param values one curve, one number a frame; not changed, now or later
 * @param noise its noise's standard deviation
 * @returns the same curve when there is no noise
 */
export function denoise(values: Float64Array, noise: number, fps: number): Float64Array {
  const edges = EDGES.filter((hertz) => hertz < 0.42 * fps);
  if (noise <= 0 || values.length < 8 || edges.length === 0) return values;
  const noises = edges.map((edge, i) => noise ** 2 * Math.max(0, (i === 0 ? 1 : gainOf(edges[i - 1], fps) ** 2) - gainOf(edge, fps) ** 2));
  const { rest, bands, energies } = keptApart(values, edges, fps);
  const first = rest.slice();
  bands.forEach((band, i) => addDoubted(first, band, energies[i], DOUBT * noises[i]));
  const out = rest.slice();
  const room = roomFor(values.length);
  let above: Float64Array = first;
  edges.forEach((edge, i) => {
    const below = lowPass(first, edge, fps, room.below[i % 2]);
    addShare(out, bands[i], summedSquares(above, below, room.sums), Math.round((PERIODS * fps) / edge), noises[i]);
    above = below;
  });
  return out;
}

/** In place: what of a band is stronger than noise may be. */
function addDoubted(out: Float64Array, band: Float64Array, energy: Float64Array, least: number): void {
  for (let f = 0; f < out.length; f++) if (energy[f] > least) out[f] += (1 - least / energy[f]) * band[f];
}

/** In place: of a band the share that is movement, by how strong movement is known to be there: the mean of squares over `reach` to both sides. */
function addShare(out: Float64Array, band: Float64Array, sums: Float64Array, reach: number, noise: number): void {
  const n = out.length;
  for (let f = 0; f < n; f++) {
    const h = Math.min(reach, f, n - 1 - f);
    const squares = sums[f + h + 1] - sums[f - h];
    // One division for two: squares / width / (squares / width + noise).
    out[f] += (squares / (squares + noise * (2 * h + 1))) * band[f];
  }
}

interface TakenApart {
  /** What lies between the edges, from the highest to the lowest. */
  readonly bands: readonly Float64Array[];
  /** How strong each of them is about every instant: the mean of its squares. */
  readonly energies: readonly Float64Array[];
  /** What is below all edges. */
  readonly rest: Float64Array;
}

/** What was taken apart last, as many numbers of curves: a few clips of some seconds, joint by joint. */
const kept = new LRUCache<Float64Array, { readonly fps: number; readonly apart: TakenApart }>({
  maxSize: 150_000,
  sizeCalculation: (_, values) => values.length,
});

/** As it was taken apart before: while somebody tries how much noise to believe in, the curve stays the same. */
function keptApart(values: Float64Array, edges: readonly number[], fps: number): TakenApart {
  const known = kept.get(values);
  if (known?.fps === fps) return known.apart;
  const apart = takenApart(values, edges, fps);
  kept.set(values, { fps, apart });
  return apart;
}

function takenApart(values: Float64Array, edges: readonly number[], fps: number): TakenApart {
  const bands: Float64Array[] = [];
  const energies: Float64Array[] = [];
  const { sums } = roomFor(values.length);
  let above = values;
  for (const edge of edges) {
    const below = lowPass(values, edge, fps);
    const band = new Float64Array(values.length);
    for (let f = 0; f < band.length; f++) band[f] = above[f] - below[f];
    bands.push(band);
    energies.push(meanSquares(summedSquares(above, below, sums), Math.round((PERIODS * fps) / edge)));
    above = below;
  }
  return { bands, energies, rest: above };
}

/** The mean of squares over so many values to both sides of each, fewer at the ends. @param sums of the squares before each place */
function meanSquares(sums: Float64Array, reach: number): Float64Array {
  const n = sums.length - 1;
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const h = Math.min(reach, i, n - 1 - i);
    out[i] = (sums[i + h + 1] - sums[i - h]) / (2 * h + 1);
  }
  return out;
}

/** The squares of what one curve has and another has not, summed up to before each place; into `sums`, one longer than they. */
function summedSquares(above: Float64Array, below: Float64Array, sums: Float64Array): Float64Array {
  let sum = 0;
  for (let i = 0; i < above.length; i++) {
    const band = above[i] - below[i];
    sum += band * band;
    sums[i + 1] = sum;
  }
  return sums;
}

interface Room {
  readonly below: readonly [Float64Array, Float64Array];
  readonly sums: Float64Array;
}

let held: Room | null = null;

/** Room to work in, kept for the next curve of that length: the same for all joints of a clip. */
function roomFor(frames: number): Room {
  if (held?.below[0].length !== frames)
    held = { below: [new Float64Array(frames), new Float64Array(frames)], sums: new Float64Array(frames + 1) };
  return held;
}

const gains = new Map<string, number>();

/** How much of white noise a low-pass lets through, of its standard deviation. */
function gainOf(hertz: number, fps: number): number {
  const key = `${hertz} ${fps}`;
  const known = gains.get(key);
  if (known !== undefined) return known;
  const size = 2 * Math.ceil((4 * fps) / hertz) + 1;
  const impulse = new Float64Array(size);
  impulse[size >> 1] = 1;
  const gain = Math.sqrt(lowPass(impulse, hertz, fps).reduce((sum, v) => sum + v * v, 0));
  gains.set(key, gain);
  return gain;
}
