import { normalize, type Numbers } from './quat';
import type { PlayClip } from './play-set';

/**
 * In place: the weighted mean of poses of several clips, each read at its own instant. Rotations are the weighted mean of quaternions in the hemisphere
 * of the heaviest, hips the weighted mean in the root's axes.
 *
 * Source: Markley et al., *Averaging Quaternions*, 2007; for poses as near to one another as those of a field the normalised sum is within a hundredth of
 * a degree of it.
 *
 * @param at seconds into each clip
 * @param heaviest index of the clip that weighs most
 */
export function blendPoses(
  rotations: Float32Array,
  hips: Numbers,
  clips: readonly PlayClip[],
  at: Float64Array,
  weights: Float64Array,
  heaviest: number,
): void {
  const numbers = rotations.length;
  readPose(rotations, hips, clips[heaviest], at[heaviest], weights[heaviest]);
  for (let i = 0; i < clips.length; i++) {
    const w = weights[i];
    if (i === heaviest || w === 0) continue;
    const { rotations: keys, hips: places } = clips[i];
    const [a, b, u] = frameAt(clips[i], at[i]);
    const from = a * numbers,
      to = b * numbers;
    const wa = w * (1 - u),
      wb = w * u;
    for (let o = 0; o < numbers; o += 4) {
      const p = from + o,
        q = to + o;
      const ahead = keys[p] * keys[q] + keys[p + 1] * keys[q + 1] + keys[p + 2] * keys[q + 2] + keys[p + 3] * keys[q + 3] < 0 ? -wb : wb;
      const x = keys[p] * wa + keys[q] * ahead,
        y = keys[p + 1] * wa + keys[q + 1] * ahead,
        z = keys[p + 2] * wa + keys[q + 2] * ahead,
        s = keys[p + 3] * wa + keys[q + 3] * ahead;
      const side = x * rotations[o] + y * rotations[o + 1] + z * rotations[o + 2] + s * rotations[o + 3] < 0 ? -1 : 1;
      rotations[o] += x * side;
      rotations[o + 1] += y * side;
      rotations[o + 2] += z * side;
      rotations[o + 3] += s * side;
    }
    for (let k = 0; k < 3; k++) hips[k] += places[a * 3 + k] * wa + places[b * 3 + k] * wb;
  }
  for (let o = 0; o < numbers; o += 4) normalize(rotations, o);
}

/** In place: a clip's pose between two keys, times a weight; not normalised. */
function readPose(rotations: Float32Array, hips: Numbers, clip: PlayClip, at: number, w: number): void {
  const { rotations: keys, hips: places } = clip;
  const numbers = rotations.length;
  const [a, b, u] = frameAt(clip, at);
  const from = a * numbers,
    to = b * numbers;
  const wa = w * (1 - u),
    wb = w * u;
  for (let o = 0; o < numbers; o += 4) {
    const p = from + o,
      q = to + o;
    const ahead = keys[p] * keys[q] + keys[p + 1] * keys[q + 1] + keys[p + 2] * keys[q + 2] + keys[p + 3] * keys[q + 3] < 0 ? -wb : wb;
    rotations[o] = keys[p] * wa + keys[q] * ahead;
    rotations[o + 1] = keys[p + 1] * wa + keys[q + 1] * ahead;
    rotations[o + 2] = keys[p + 2] * wa + keys[q + 2] * ahead;
    rotations[o + 3] = keys[p + 3] * wa + keys[q + 3] * ahead;
  }
  for (let k = 0; k < 3; k++) hips[k] = places[a * 3 + k] * wa + places[b * 3 + k] * wb;
}

/** Used again and again: two keys and the share of the second. */
const FRAME: [number, number, number] = [0, 0, 0];

/** The keys about an instant of a loop; of what is no loop the last key stays. */
export function frameAt({ fps, frames, loop }: PlayClip, seconds: number): readonly [number, number, number] {
  const last = frames - 1;
  let f = seconds * fps;
  if (loop) f -= last * Math.floor(f / last);
  else f = Math.min(last, Math.max(0, f));
  const a = Math.min(last - 1, Math.floor(f));
  FRAME[0] = Math.max(0, a);
  FRAME[1] = Math.min(last, a + 1);
  FRAME[2] = f - a;
  return FRAME;
}

/** In place: adds a foot of a clip's track at an instant, by a weight; turns are taken in the hemisphere of what is there. */
export function addFoot(
  out: Numbers,
  o: number,
  track: Float32Array,
  clip: PlayClip,
  side: number,
  seconds: number,
  w: number,
  size: number,
): void {
  const [a, b, u] = frameAt(clip, seconds);
  const p = (a * 2 + side) * size,
    q = (b * 2 + side) * size;
  for (let k = 0; k < 3; k++) out[o + k] += w * (track[p + k] * (1 - u) + track[q + k] * u);
  for (let k = 3; k < size; k += 4) {
    let ahead = 0,
      like = 0;
    for (let i = k; i < k + 4; i++) {
      ahead += track[p + i] * track[q + i];
      like += out[o + i] * track[p + i];
    }
    const wa = w * (1 - u) * (like < 0 ? -1 : 1);
    const wb = w * u * (like < 0 !== ahead < 0 ? -1 : 1);
    for (let i = k; i < k + 4; i++) out[o + i] += wa * track[p + i] + wb * track[q + i];
  }
}
