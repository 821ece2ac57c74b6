import { lowPass, movingAverage } from './filter';

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
 * @param values one curve, one number a frame; not changed
 * @param noise its noise's standard deviation
 * @returns the same curve when there is no noise
 */
export function denoise(values: Float64Array, noise: number, fps: number): Float64Array {
  const edges = EDGES.filter((hertz) => hertz < 0.42 * fps);
  if (noise <= 0 || values.length < 8 || edges.length === 0) return values;
  const bands = bandsOf(values, edges, fps);
  const noises = edges.map((edge, i) => noise ** 2 * Math.max(0, (i === 0 ? 1 : gainOf(edges[i - 1], fps) ** 2) - gainOf(edge, fps) ** 2));
  const first = joined(
    bands,
    (band, i, f) => {
      const least = DOUBT * noises[i];
      return band[f] > least ? 1 - least / band[f] : 0;
    },
    bands,
    edges,
    fps,
  );
  return joined(bands, (band, i, f) => band[f] / (band[f] + noises[i]), bandsOf(first, edges, fps), edges, fps);
}

/** What lies between the edges, one band each, and what is below all of them. */
function bandsOf(values: Float64Array, edges: readonly number[], fps: number): Float64Array[] {
  let above = values;
  const bands = edges.map((edge) => {
    const below = lowPass(values, edge, fps);
    const band = above.map((v, f) => v - below[f]);
    above = below;
    return band;
  });
  return [...bands, above];
}

/** The bands together again, each with a share that goes by how strong another curve's band is about there. */
function joined(
  bands: readonly Float64Array[],
  shareOf: (energy: Float64Array, band: number, frame: number) => number,
  seen: readonly Float64Array[],
  edges: readonly number[],
  fps: number,
): Float64Array {
  const out = bands[edges.length].slice();
  edges.forEach((edge, i) => {
    const energy = movingAverage(
      seen[i].map((v) => v * v),
      1 + 2 * Math.round((PERIODS * fps) / edge),
    );
    for (let f = 0; f < out.length; f++) out[f] += shareOf(energy, i, f) * bands[i][f];
  });
  return out;
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
