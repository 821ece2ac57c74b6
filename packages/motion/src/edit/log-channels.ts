import { lowPass } from '../math/filter';
import { exp, log, makeContinuous, multiply, multiplyInverse, normalize } from '../math/quat';
import { series } from '../math/series';

/** A rotation over time as three plain curves: where it is turned to from its own slow mean, as half-angle vectors. */
export interface LogChannels {
  readonly mean: Float64Array;
  readonly values: readonly [Float64Array, Float64Array, Float64Array];
}

/** The slow mean follows the rotation up to this, hertz. */
const SLOW = 1.5;

/**
 * The rotation of one joint around its local mean, in the log space: curves that may be filtered like places, wherever the joint is turned to.
 *
 * @param rotations quaternions, `stride` numbers from frame to frame
 * @param at of the joint in the first frame
 */
export function logChannels(rotations: ArrayLike<number>, at: number, stride: number, frames: number, fps: number): LogChannels {
  const own = new Float64Array(frames * 4);
  for (let f = 0; f < frames; f++) for (let k = 0; k < 4; k++) own[f * 4 + k] = rotations[f * stride + at + k];
  makeContinuous(own, 0, frames, 4);
  const slow = [0, 1, 2, 3].map((k) =>
    lowPass(
      series(frames, (f) => own[f * 4 + k]),
      SLOW,
      fps,
    ),
  );
  const mean = new Float64Array(frames * 4);
  const values = [0, 1, 2].map(() => new Float64Array(frames)) as unknown as LogChannels['values'];
  const [turn, vector] = [
    [0, 0, 0, 1],
    [0, 0, 0],
  ];
  for (let f = 0; f < frames; f++) {
    for (let k = 0; k < 4; k++) mean[f * 4 + k] = slow[k][f];
    normalize(mean, f * 4);
    multiplyInverse(turn, 0, mean, f * 4, own, f * 4);
    log(vector, 0, turn, 0);
    for (let k = 0; k < 3; k++) values[k][f] = vector[k];
  }
  return { mean, values };
}

/** In place: writes curves back as rotations, from frame `from` to `to`, excluded. */
export function writeChannels(
  { mean }: Pick<LogChannels, 'mean'>,
  values: LogChannels['values'],
  rotations: Float32Array,
  at: number,
  stride: number,
  from = 0,
  to = values[0].length,
): void {
  const [turn, vector] = [
    [0, 0, 0, 1],
    [0, 0, 0],
  ];
  for (let f = from; f < to; f++) {
    for (let k = 0; k < 3; k++) vector[k] = values[k][f];
    exp(turn, 0, vector, 0);
    multiply(rotations, f * stride + at, mean, f * 4, turn, 0);
    normalize(rotations, f * stride + at);
  }
}

/** The same joint at another moment, around the means of now: what `shift` frames later (held at the take's ends) is turned to. */
export function channelsAt(
  { mean, values }: LogChannels,
  rotations: ArrayLike<number>,
  at: number,
  stride: number,
  shift: number,
): LogChannels['values'] {
  const frames = values[0].length;
  const out = [0, 1, 2].map(() => new Float64Array(frames)) as unknown as LogChannels['values'];
  const [turn, vector] = [
    [0, 0, 0, 1],
    [0, 0, 0],
  ];
  for (let f = 0; f < frames; f++) {
    const other = Math.max(0, Math.min(frames - 1, f + shift));
    multiplyInverse(turn, 0, mean, f * 4, rotations, other * stride + at);
    log(vector, 0, turn, 0);
    for (let k = 0; k < 3; k++) out[k][f] = vector[k];
  }
  return out;
}
