import { log, multiplyInverse } from '../math/quat';
import { Ridge } from '../math/ridge';
import type { Gap } from './gaps';
import { besideGap, isSilentIn, type Heard, type LikeMoment } from './like-moment';
import { channelsAt, type LogChannels } from './log-channels';

/** How firmly what the other joints tell is held to be little: radians squared, summed over frames and moments. */
const RIDGE = 0.02;
/** The likest moment counts most; one that is so far apart counts half as much as one that is just the same, radians. */
const HALF = 0.03;
/** Where the others were so long before, and are so long after, tells how they go, seconds. */
const LAG = 0.067;

/**
 * What a joint would do in a gap by what it did at like moments, for every frame of the take (zero further away from the gap): their mean, set right by
 * what the other joints do otherwise now than then. How much of that is this joint's is a ridge regression over the moments.
 *
 * @param channels of the joint; what is returned is around their means
 * @param moments one or more
 */
export function likeCourse(
  { rotations, joints, frames, fps, silent }: Heard,
  channels: LogChannels,
  joint: number,
  gap: Gap,
  moments: readonly LikeMoment[],
): LogChannels['values'] {
  const stride = joints * 4;
  const lag = Math.round(LAG * fps);
  const { first, last } = besideGap(gap, frames, fps);
  const isHeard = (j: number) =>
    [0, ...moments.map(({ shift }) => shift)].every((shift) => !isSilentIn(silent, j, first + shift, last + shift));
  // Where the hips face is another thing at every moment, and tells nothing.
  const others = Array.from({ length: joints }, (_, j) => j).filter((j) => j > 0 && j !== joint && isHeard(j));
  const curves = moments.map(({ shift }) => channelsAt(channels, rotations, joint * 4, stride, shift));
  const weights = asShares(moments.map(({ apart }) => 1 / (HALF ** 2 + apart ** 2)));
  const regression = new Ridge(others.length * 9, 3, RIDGE);
  const means = Array.from({ length: last - first }, (_, n) => {
    const f = first + n;
    const around = [f, Math.max(first, f - lag), Math.min(last - 1, f + lag)];
    const told = moments.map(({ shift }) => around.flatMap((at) => turnsBetween(rotations, stride, others, at, at + shift)));
    const own = curves.map((curve) => curve.map((values) => values[f]));
    const mean = { told: meanOf(told, weights), own: meanOf(own, weights) };
    told.forEach((row, m) => regression.add(minus(row, mean.told), minus(own[m], mean.own), weights[m] * moments.length));
    return mean;
  });
  // Of one moment nothing is known but itself.
  const shares = moments.length > 1 ? regression.solve() : null;
  const out = [0, 1, 2].map(() => new Float64Array(frames)) as unknown as LogChannels['values'];
  means.forEach(({ told, own }, n) => {
    for (let k = 0; k < 3; k++) out[k][first + n] = own[k] - (shares ? dot(shares[k], told) : 0);
  });
  return out;
}

/** How joints are turned at another frame, seen from how they are at this: half-angle vectors, one after the other. */
function turnsBetween(rotations: ArrayLike<number>, stride: number, joints: readonly number[], frame: number, other: number): number[] {
  const out = new Array<number>(joints.length * 3);
  const turn = [0, 0, 0, 1];
  joints.forEach((j, n) => {
    multiplyInverse(turn, 0, rotations, frame * stride + j * 4, rotations, other * stride + j * 4);
    if (turn[3] < 0) for (let k = 0; k < 4; k++) turn[k] = -turn[k];
    log(out, n * 3, turn, 0);
  });
  return out;
}

function asShares(weights: readonly number[]): number[] {
  const total = weights.reduce((sum, w) => sum + w, 0);
  return weights.map((w) => w / total);
}

function meanOf(rows: readonly (readonly number[])[], weights: readonly number[]): number[] {
  return rows[0].map((_, i) => rows.reduce((sum, row, m) => sum + weights[m] * row[i], 0));
}

const minus = (a: readonly number[], b: readonly number[]): number[] => a.map((value, i) => value - b[i]);
const dot = (a: Float64Array, b: readonly number[]): number => a.reduce((sum, value, i) => sum + value * b[i], 0);
