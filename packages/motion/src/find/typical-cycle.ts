import { InputError } from '../error';
import { mean, median } from '../math/statistics';
import { dot, normalize, slerp } from '../math/quat';
import type { Groundwork } from '../measure/groundwork';
import { footfalls } from '../measure/strides';
import { moveFrames } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { createMotion, type Motion } from '../model/motion';
import { solveFloor } from '../measure/align';

/** One captured stride, brought to the length of all and over the others on the floor. */
export interface CapturedStride {
  /** Frames of the motion. */
  readonly from: number;
  readonly to: number;
  /** Root mean square distance of its joints from the average of those that count, cm. */
  readonly distanceCm: number;
  readonly isOut: boolean;
}

export interface TypicalCycle {
  /** The average stride: its last frame is about its first, one cycle on. */
  readonly motion: Motion;
  readonly strides: readonly CapturedStride[];
  /** Standard deviation of the joints over the strides that count, cm, per frame. */
  readonly spreadCm: Float32Array;
}

/** A stride that is this many times the usual distance off, and this much, cm, is an outlier. */
const FAR = 2;
const FAR_CM = 1;

/**
 * The typical cycle of several strides: each from one landing of a foot to the next of the same, brought to their mean length piecewise
 * between footfalls, laid over the others by one turn and shift on the floor, and averaged, rotations on the sphere. Strides far from the
 * average are left out, then those in `exclude` (counted from 0).
 *
 * @throws InputError `strides` when there are not two strides to average
 */
export function typicalCycle(ground: Groundwork, exclude: readonly number[] | 'auto' = 'auto'): TypicalCycle {
  const { samples, average, strides } = overlaidStrides(ground, exclude);
  const counted = samples.filter((_, i) => !strides[i].isOut);
  return { motion: average, strides, spreadCm: spreadOf(counted, average) };
}

/** The strides of a motion brought to one length and laid over each other, and the average of those that count. */
export function overlaidStrides(
  ground: Groundwork,
  exclude: readonly number[] | 'auto' = 'auto',
): { readonly samples: readonly Motion[]; readonly average: Motion; readonly strides: readonly CapturedStride[] } {
  const { motion, contacts } = ground;
  const first = (['left', 'right'] as const)
    .map((side) => ({ side, falls: footfalls(contacts, side) }))
    .sort((a, b) => b.falls.length - a.falls.length)[0];
  const other = footfalls(contacts, first.side === 'left' ? 'right' : 'left');
  const spans = first.falls.slice(1).map((to, i) => {
    const from = first.falls[i];
    // A foot that lands with the first, as in hops on both, halves nothing.
    const within = 0.2 * (to - from);
    return { from, to, middle: other.find((f) => f > from + within && f < to - within) ?? (from + to) / 2 };
  });
  const usual = median(spans.map(({ from, to }) => to - from));
  const strides = spans.filter(({ from, to }) => Math.abs(to - from - usual) < 0.25 * usual);
  if (strides.length < 2) throw new InputError('strides', 'A typical cycle needs two whole strides at least: cut a longer stretch.');
  const length = Math.round(mean(strides.map(({ from, to }) => to - from)));
  const half = mean(strides.map(({ from, to, middle }) => (middle - from) / (to - from)));
  const samples = strides.map((stride) => stretched(motion, stride, length, half));
  let counts = strides.map((_, i) => exclude === 'auto' || !exclude.includes(i));
  let average = samples[0];
  let distances = strides.map(() => 0);
  // Laid over the first, then over their average; who is far off then no longer counts.
  for (let round = 0; round < 3; round++) {
    const target = forwardKinematics(average).positions;
    for (const sample of samples) layOver(sample, target);
    average = averageOf(samples.filter((_, i) => counts[i]));
    const { positions } = forwardKinematics(average);
    distances = samples.map((sample) => distance(forwardKinematics(sample).positions, positions) * 100);
    if (exclude !== 'auto' || round === 0) continue;
    const middle = median(distances);
    counts = distances.map((d) => d < Math.max(FAR * middle, middle + FAR_CM));
  }
  return { samples, average, strides: strides.map(({ from, to }, i) => ({ from, to, distanceCm: distances[i], isOut: !counts[i] })) };
}

/** A stride sampled at `length + 1` instants, its other footfall brought to a share of it. */
function stretched(
  motion: Motion,
  { from, to, middle }: { from: number; to: number; middle: number },
  length: number,
  half: number,
): Motion {
  const J = motion.skeleton.joints.length;
  const out = createMotion(motion.skeleton, motion.fps, length + 1);
  for (let f = 0; f <= length; f++) {
    const u = f / length;
    const t = u < half ? from + (u / half) * (middle - from) : middle + ((u - half) / (1 - half)) * (to - middle);
    const low = Math.min(motion.frames - 1, Math.floor(t + 1e-9));
    const high = Math.min(motion.frames - 1, low + 1);
    const w = Math.max(0, t - low);
    for (let k = 0; k < 3; k++)
      out.rootPositions[f * 3 + k] = motion.rootPositions[low * 3 + k] * (1 - w) + motion.rootPositions[high * 3 + k] * w;
    for (let j = 0; j < J; j++)
      slerp(out.rotations, (f * J + j) * 4, motion.rotations, (low * J + j) * 4, motion.rotations, (high * J + j) * 4, w);
  }
  return out;
}

function layOver(sample: Motion, target: Float32Array): void {
  const { positions } = forwardKinematics(sample);
  const sums = { total: 0, ax: 0, az: 0, bx: 0, bz: 0, cross: 0, dot: 0 };
  for (let i = 0; i < positions.length; i += 3) {
    const [px, pz, qx, qz] = [target[i], target[i + 2], positions[i], positions[i + 2]];
    sums.total += 1;
    sums.ax += px;
    sums.az += pz;
    sums.bx += qx;
    sums.bz += qz;
    sums.dot += px * qx + pz * qz;
    sums.cross += px * qz - pz * qx;
  }
  moveFrames(sample, solveFloor(sums));
}

function averageOf(samples: readonly Motion[]): Motion {
  const [first] = samples;
  const out = createMotion(first.skeleton, first.fps, first.frames);
  const n = samples.length;
  for (const sample of samples) {
    for (let i = 0; i < out.rootPositions.length; i++) out.rootPositions[i] += sample.rootPositions[i] / n;
  }
  out.rotations.fill(0);
  for (let q = 0; q < out.rotations.length; q += 4) {
    // For rotations that differ by little, the normalised sum is the mean on the sphere.
    for (const sample of samples) {
      const sign = dot(first.rotations, q, sample.rotations, q) < 0 ? -1 : 1;
      for (let k = 0; k < 4; k++) out.rotations[q + k] += sign * sample.rotations[q + k];
    }
    normalize(out.rotations, q);
  }
  return out;
}

function distance(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] - b[i]) ** 2;
  return Math.sqrt((sum * 3) / a.length);
}

function spreadOf(samples: readonly Motion[], average: Motion): Float32Array {
  const target = forwardKinematics(average);
  const all = samples.map((sample) => forwardKinematics(sample).positions);
  const width = target.joints * 3;
  return Float32Array.from({ length: average.frames }, (_, f) => {
    const squares = all.map(
      (positions) => distance(positions.subarray(f * width, (f + 1) * width), target.positions.subarray(f * width, (f + 1) * width)) ** 2,
    );
    return Math.sqrt(mean(squares)) * 100;
  });
}
