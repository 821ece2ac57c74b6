import { InputError } from '../error';
import { normalize, slerp, type Numbers } from '../math/quat';
import { readAccessor } from './gltf-accessor';
import type { Gltf, GltfJson } from './gltf-container';

/** One animated property of one node: keys over time. */
export interface Track {
  readonly times: Float64Array;
  /** Per key `width` numbers, or three times as many (in-tangent, value, out-tangent) when cubic. */
  readonly values: Float64Array;
  readonly width: 3 | 4;
  readonly kind: 'LINEAR' | 'STEP' | 'CUBICSPLINE';
}

/** The tracks of an animation, by node and by what they change. */
export type Tracks = ReadonlyMap<number, Partial<Record<TrackPath, Track>>>;

/** First instant in seconds, frames, and frames a second at which an animation is sampled. */
export interface Span {
  readonly start: number;
  readonly frames: number;
  readonly fps: number;
}

const PATHS = { translation: 3, rotation: 4, scale: 3 } as const;
export type TrackPath = keyof typeof PATHS;

const isPath = (path: string): path is TrackPath => path in PATHS;

/** The tracks of an animation by node and path; weights and unknown paths are left out. */
export function readTracks(
  gltf: Gltf,
  animation: GltfJson['animations'][number],
  label: string,
): Map<number, Partial<Record<TrackPath, Track>>> {
  const out = new Map<number, Partial<Record<TrackPath, Track>>>();
  const fail = (message: string): never => {
    throw new InputError('gltf', `${label}: ${message}`, { line: 1 });
  };
  for (const { sampler: s, target } of animation.channels) {
    if (target.node === undefined || !isPath(target.path)) continue;
    if (!gltf.json.nodes[target.node]) fail(`a channel moves node ${target.node}, which is missing.`);
    const sampler = animation.samplers[s] ?? fail(`sampler ${s} is missing.`);
    const kind = sampler.interpolation;
    if (kind !== 'LINEAR' && kind !== 'STEP' && kind !== 'CUBICSPLINE') return fail(`the interpolation "${kind.slice(0, 20)}" is unknown.`);
    const width = PATHS[target.path];
    const input = readAccessor(gltf, sampler.input);
    const output = readAccessor(gltf, sampler.output);
    const perKey = kind === 'CUBICSPLINE' ? 3 : 1;
    if (input.width !== 1 || output.width !== width || output.count !== input.count * perKey) {
      fail(`the ${target.path} of node ${target.node} has ${input.count} times and ${output.count} values of ${output.width} numbers.`);
    }
    for (let i = 1; i < input.count; i++) {
      if (input.values[i] < input.values[i - 1]) fail(`the key times of node ${target.node} go backwards at key ${i}.`);
    }
    const tracks = out.get(target.node) ?? {};
    tracks[target.path] = { times: input.values, values: output.values, width, kind };
    out.set(target.node, tracks);
  }
  return out;
}

/**
 * A track at an instant; before its first and after its last key it holds. Linear rotations go along the sphere's shorter arc, cubic
 * ones are Hermite splines, normalised (glTF 2.0, appendix C).
 */
export function sampleTrack(out: Numbers, o: number, { times, values, width, kind }: Track, seconds: number): void {
  let low = 0;
  let high = times.length - 1;
  // Key times are float32: a step must not be missed by their rounding.
  if (kind === 'STEP') seconds += 2e-5;
  if (seconds <= times[0]) high = 0;
  else if (seconds >= times[high]) low = high;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle] <= seconds) low = middle;
    else high = middle;
  }
  const span = times[high] - times[low];
  const u = span > 0 ? (seconds - times[low]) / span : 0;
  const isCubic = kind === 'CUBICSPLINE';
  // Of a cubic key the value is the middle one of three.
  const [a, b] = isCubic ? [(low * 3 + 1) * width, (high * 3 + 1) * width] : [low * width, high * width];
  if (kind === 'STEP' || u === 0) {
    for (let k = 0; k < width; k++) out[o + k] = values[a + k];
  } else if (isCubic) {
    const u2 = u * u;
    const u3 = u2 * u;
    for (let k = 0; k < width; k++) {
      const leaving = values[a + width + k] * span;
      const arriving = values[b - width + k] * span;
      out[o + k] =
        (2 * u3 - 3 * u2 + 1) * values[a + k] + (u3 - 2 * u2 + u) * leaving + (3 * u2 - 2 * u3) * values[b + k] + (u3 - u2) * arriving;
    }
  } else if (width === 4) {
    slerp(out, o, values, a, values, b, u);
  } else {
    for (let k = 0; k < width; k++) out[o + k] = values[a + k] * (1 - u) + values[b + k] * u;
  }
  if (width === 4) normalize(out, o);
}

/** Half a step of float32, in which key times are stored. */
const ROUNDING = 2 ** -23;

/** A track at even instants, frame after frame: `frames · width` numbers. */
export function sampleFrames(track: Track, start: number, fps: number, frames: number): Float64Array {
  const { times, values, width, kind } = track;
  if (kind === 'LINEAR' && isOnFrames(times, start, fps, frames)) return width === 3 ? values : normalized(values, frames);
  const out = new Float64Array(frames * width);
  const last = times.length - 1;
  let key = 0;
  for (let f = 0; f < frames; f++) {
    const seconds = start + f / fps;
    const near = ROUNDING * Math.abs(seconds) + 1e-9;
    while (key < last && times[key + 1] <= seconds + near) key++;
    const o = f * width;
    // A key on the frame, as in dense animations, is taken as it is; so is what is held beyond the ends.
    if (kind !== 'LINEAR' || (key < last && seconds > times[key] + near)) {
      sampleTrack(out, o, track, seconds);
      continue;
    }
    for (let k = 0; k < width; k++) out[o + k] = values[key * width + k];
    if (width === 4) normalize(out, o);
  }
  return out;
}

/** Whether a key stands on every frame, as in dense animations: its value is taken as it is. */
function isOnFrames(times: Float64Array, start: number, fps: number, frames: number): boolean {
  if (times.length < frames) return false;
  for (let f = 0; f < frames; f++) {
    const seconds = start + f / fps;
    if (!(Math.abs(times[f] - seconds) <= ROUNDING * Math.abs(seconds) + 1e-9)) return false;
  }
  return true;
}

function normalized(values: Float64Array, count: number): Float64Array {
  const out = values.slice(0, count * 4);
  for (let f = 0; f < count; f++) normalize(out, f * 4);
  return out;
}
