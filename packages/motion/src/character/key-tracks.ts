import { fromHeading, makeContinuous, normalize, slerp } from '../math/quat';
import type { Clip } from '../model/clip';
import { copyMotion, type Motion } from '../model/motion';
import type { Travel } from '../model/travel';

/** What the keys of a clip are kept of: the joints' rotations by their number, the first joint's place, and the root's place and heading. */
export type TrackName = number | 'place' | 'root place' | 'root heading';

/** One of a clip's tracks: three numbers a frame, or four of a rotation. */
export interface Track {
  readonly name: TrackName;
  readonly size: 3 | 4;
  readonly values: Float64Array;
  /** How steep it is at every frame, a frame; what keys are joined by where they are joined smoothly. */
  readonly slopes: Float64Array;
}

export type Tracked = Pick<Clip, 'motion' | 'travel' | 'loop'>;

/** Whether a track of a clip comes back at the end to where it began. */
export const isRound = ({ travel, loop }: Pick<Clip, 'travel' | 'loop'>, name: TrackName): boolean =>
  loop && travel !== null && (typeof name === 'number' || name === 'place');

/** All tracks of a clip. */
export function tracksOf({ motion, travel, loop }: Tracked): Track[] {
  const { frames, skeleton } = motion;
  const J = skeleton.joints.length;
  const make = (name: TrackName, size: 3 | 4, at: (f: number, k: number) => number): Track => {
    const values = new Float64Array(frames * size);
    for (let f = 0; f < frames; f++) for (let k = 0; k < size; k++) values[f * size + k] = at(f, k);
    if (size === 4) makeContinuous(values, 0, frames, 4);
    return { name, size, values, slopes: slopesOf(values, size, frames, isRound({ travel, loop }, name)) };
  };
  const joints = skeleton.joints.map((_, j) => make(j, 4, (f, k) => motion.rotations[(f * J + j) * 4 + k]));
  const place = make('place', 3, (f, k) => motion.rootPositions[f * 3 + k]);
  if (!travel) return [...joints, place];
  const way = [travel.x, travel.y, travel.z];
  return [
    ...joints,
    place,
    make('root place', 3, (f, k) => way[k][f]),
    make('root heading', 4, (f, k) => fromHeading(travel.heading[f])[k]),
  ];
}

/** How steep values are, by the parabola through each and its neighbours. @param round they come round at the end */
export function slopesOf(values: Float64Array, size: number, frames: number, round: boolean): Float64Array {
  const out = new Float64Array(values.length);
  const at = (f: number, k: number) => values[f * size + k];
  const last = frames - 1;
  for (let k = 0; k < size; k++) {
    for (let f = 1; f < last; f++) out[f * size + k] = (at(f + 1, k) - at(f - 1, k)) / 2;
    if (last < 2) {
      for (const f of [0, last]) out[f * size + k] = at(last, k) - at(0, k);
      continue;
    }
    // A cycle may come back to the same rotation with the other sign.
    const sign = size === 4 && isTurnedOver(values, last) ? -1 : 1;
    const seam = (at(1, k) - sign * at(last - 1, k)) / 2;
    out[k] = round ? seam : (-3 * at(0, k) + 4 * at(1, k) - at(2, k)) / 2;
    out[last * size + k] = round ? sign * seam : (3 * at(last, k) - 4 * at(last - 1, k) + at(last - 2, k)) / 2;
  }
  return out;
}

/** Whether a rotation comes back at the end with the other sign. */
export const isTurnedOver = (q: ArrayLike<number>, last: number): boolean =>
  [0, 1, 2, 3].reduce((sum, k) => sum + q[k] * q[last * 4 + k], 0) < 0;

/** How keys are joined: straight from one to the next, or by a cubic with the slopes that come nearest to the motion between them. */
export type Joining = 'straight' | 'smooth';

/** The slopes that a stretch between two keys begins and ends with, a frame: as many numbers each as the track has. */
export interface Stretch {
  readonly out: Float64Array;
  readonly in: Float64Array;
}

/** How strongly slopes keep to the motion's own where the frames between leave them open. */
const OWN = 1e-3;

/**
 * The slopes with which a cubic from key to key comes nearest to the frames between them, by least squares.
 *
 * @param weights how much each frame of the track counts
 * @param into where they are written: whoever asks for one length after the other needs no new ones
 */
export function slopesBetween(
  { size, values, slopes }: Track,
  a: number,
  b: number,
  weights: ArrayLike<number>,
  into: Stretch = { out: new Float64Array(size), in: new Float64Array(size) },
): Stretch {
  const width = b - a;
  const [i, j] = [a * size, b * size];
  let [aa, ab, bb] = [OWN, 0, OWN];
  const { out: ra, in: rb } = into;
  ra.fill(0);
  rb.fill(0);
  // Asked for every length that a stretch could have: the four parts of the cubic are worked out once a frame.
  const most = 1 / weights[a];
  for (let f = a + 1; f < b; f++) {
    const u = (f - a) / width;
    const v = 1 - u;
    const [start, end] = [(1 + 2 * u) * v * v, u * u * (3 - 2 * u)];
    const [at, to] = [width * u * v * v, -width * u * u * v];
    const w = weights[f] * most;
    const [wat, wto] = [w * at, w * to];
    aa += wat * at;
    ab += wat * to;
    bb += wto * to;
    const n = f * size;
    for (let k = 0; k < size; k++) {
      // What is left when both slopes are the motion's own.
      const left = values[n + k] - (start * values[i + k] + at * slopes[i + k] + end * values[j + k] + to * slopes[j + k]);
      ra[k] += wat * left;
      rb[k] += wto * left;
    }
  }
  const det = aa * bb - ab * ab;
  for (let k = 0; k < size; k++) {
    const [p, q] = [ra[k], rb[k]];
    ra[k] = slopes[i + k] + (bb * p - ab * q) / det;
    rb[k] = slopes[j + k] + (aa * q - ab * p) / det;
  }
  return into;
}

/** A track between two of its keys, at a frame. @param stretch its slopes there; null: straight */
export function betweenKeys({ size, values }: Track, a: number, b: number, f: number, stretch: Stretch | null, out: number[]): void {
  const width = b - a;
  const u = (f - a) / width;
  const [i, j] = [a * size, b * size];
  if (!stretch) {
    if (size === 4) return slerp(out, 0, values, i, values, j, u);
    for (let k = 0; k < size; k++) out[k] = values[i + k] + (values[j + k] - values[i + k]) * u;
    return;
  }
  const v = 1 - u;
  const [start, end] = [(1 + 2 * u) * v * v, u * u * (3 - 2 * u)];
  const [at, to] = [width * u * v * v, -width * u * u * v];
  for (let k = 0; k < size; k++) out[k] = start * values[i + k] + at * stretch.out[k] + end * values[j + k] + to * stretch.in[k];
  if (size === 4) normalize(out, 0);
}

/** Frames at which each track has keys, rising; the first and the last are always there. */
export type Keys = ReadonlyMap<TrackName, Int32Array>;

/** A clip as it plays from its keys. @param stretchOf the slopes of a track between two of its keys; null: straight */
export function playedFromKeys(
  clip: Tracked,
  tracks: readonly Track[],
  keys: Keys,
  stretchOf: (track: Track, a: number, b: number) => Stretch | null,
): Tracked {
  const motion = copyMotion(clip.motion);
  const travel = clip.travel && copyTravel(clip.travel);
  const value = [0, 0, 0, 1];
  for (const track of tracks) {
    const frames = keys.get(track.name) ?? [];
    for (let i = 0; i + 1 < frames.length; i++) {
      const [a, b] = [frames[i], frames[i + 1]];
      const stretch = b - a > 1 ? stretchOf(track, a, b) : null;
      for (let f = a + 1; f < b; f++) {
        betweenKeys(track, a, b, f, stretch, value);
        putValue(motion, travel, track.name, f, value);
      }
    }
  }
  return { ...clip, motion, travel };
}

const copyTravel = ({ x, y, z, heading }: Travel): Travel => ({ x: x.slice(), y: y.slice(), z: z.slice(), heading: heading.slice() });

function putValue(motion: Motion, travel: Travel | null, name: TrackName, f: number, value: readonly number[]): void {
  if (typeof name === 'number') for (let k = 0; k < 4; k++) motion.rotations[(f * motion.skeleton.joints.length + name) * 4 + k] = value[k];
  else if (name === 'place') for (let k = 0; k < 3; k++) motion.rootPositions[f * 3 + k] = value[k];
  else if (travel && name === 'root place') [travel.x[f], travel.y[f], travel.z[f]] = value;
  else if (travel) {
    // The turn is small from frame to frame, so that the nearest heading to the one before is meant.
    const heading = 2 * Math.atan2(value[1], value[3]);
    travel.heading[f] = heading + 2 * Math.PI * Math.round((travel.heading[f - 1] - heading) / (2 * Math.PI));
  }
}
