import { withHalves } from './half-frames';
import { slopesBetween, slopesOf, type Track, type TrackName } from './key-tracks';
import type { Thinned } from './thin-keys';

/** What a sampler of a file is made of. */
export interface KeyChannel {
  /** Frames of the keys; null: one on every frame. */
  readonly frames: Int32Array | null;
  /** Key by key; of a cubic spline each with the slope before it and the slope after it. */
  readonly values: Float32Array | Int16Array;
  readonly interpolation: 'LINEAR' | 'CUBICSPLINE';
}

/**
 * The keys of a track as they are written. What is written may be the track seen from other axes: straight lines and cubics stay what they are.
 *
 * @param values one on every frame, three numbers each, or four of a rotation
 * @param thinned null: every frame is kept
 */
export function keyChannel(values: Float32Array, size: 3 | 4, fps: number, thinned: Thinned | null, name: TrackName | null): KeyChannel {
  const frames = (thinned && name !== null && thinned.keys.get(name)) || null;
  if (!frames || !thinned || name === null) return { frames: null, values, interpolation: 'LINEAR' };
  const pick = (f: number) => values.subarray(f * size, (f + 1) * size);
  const weights = thinned.weights.get(name);
  if (!weights) {
    const kept = new Float32Array(frames.length * size);
    frames.forEach((f, i) => kept.set(pick(f), i * size));
    return { frames, values: inBits(kept, thinned, name), interpolation: 'LINEAR' };
  }
  // Slopes are chosen by what is half-way between frames too.
  const round = thinned.isRound(name);
  const count = values.length / size;
  const own = withHalves(values, size, count, round);
  const track: Track = { name, size, values: own, slopes: slopesOf(own, size, 2 * count - 1, round) };
  const kept = new Float32Array(frames.length * size * 3);
  frames.forEach((f, i) => {
    kept.set(pick(f), (i * 3 + 1) * size);
    if (i + 1 === frames.length) return;
    const stretch = slopesBetween(track, 2 * f, 2 * frames[i + 1], weights);
    // The slope of half a frame is a second's by twice the rate.
    for (let k = 0; k < size; k++) {
      kept[(i * 3 + 2) * size + k] = stretch.out[k] * fps * 2;
      kept[(i + 1) * 3 * size + k] = stretch.in[k] * fps * 2;
    }
  });
  return { frames, values: inBits(kept, thinned, name), interpolation: 'CUBICSPLINE' };
}

/** As 16-bit numbers that stand for −1 to 1, where they are to be and can: slopes of quick joints are more than that. */
function inBits(values: Float32Array, { quantised }: Thinned, name: TrackName): Float32Array | Int16Array {
  if (typeof name !== 'number' || !quantised.has(name) || values.some((v) => Math.abs(v) > 1)) return values;
  return Int16Array.from(values, (v) => Math.round(v * 32767));
}
