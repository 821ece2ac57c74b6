import { median, quantile } from '../math/statistics';
import type { Body } from '../model/body';
import type { Globals } from '../model/kinematics';
import { legLength } from './leg-length';
import type { Soles } from './soles';
import { series } from '../math/series';

/** One flight of a take: how the hips fall in it, in the units and frames of the take as read. */
export interface Flight {
  /** First frame in the air, first after. */
  readonly from: number;
  readonly to: number;
  /** Downward acceleration, units per frame². */
  readonly fall: number;
  /** How much the flight says: the inverse variance of `fall` at unit scatter of the heights, frames⁴. */
  readonly weight: number;
}

export interface Flights {
  /** Flights in which the hips follow a parabola. */
  readonly falling: readonly Flight[];
  /** Intervals off the ground, from standing to standing, in which they do not: a lift, a hang, a suit that holds the feet down. */
  readonly other: number;
}

/** Clearance of the lower foot, and least and greatest rise of the parabola, as shares of the leg's length. */
const CLEAR = 0.012;
const LEAST_SAG = 0.0008;
const MOST_SAG = 0.75;
/** Root mean square distance from the parabola: as a share of its sagitta, and of the leg's length (a suit's jitter). */
const FIT = 0.06;
const JITTER = 0.0035;

/** A foot slower than this share of the take's quick feet, and low, may bear. */
const SLOW = 0.065;
/** Quick feet move this share of the leg's length a frame at the least: below that it is all jitter. */
const QUICK = 0.012;

/**
 * Finds flights without trusting scale or rate: all gates are shares of the performer's own leg, of the speed of their own feet, and
 * counts of frames. In the air is where no sole point is both low and slow; a flight lies between two frames on the ground with the
 * feet below the hips, and the hips follow one parabola in it, downwards, from end to end. Lifts and swings do not: they gather speed
 * in the air. A suit that holds the lowest foot down has feet that rush over the floor, and hips that do not fall.
 *
 * @param globals any unit, Y up
 */
export function findFlights(globals: Globals, body: Body, soles: Soles): Flights {
  const { positions, joints, frames } = globals;
  const leg = legLength(globals, body);
  const points = (['left', 'right'] as const).flatMap((side) => [soles[side].heel, soles[side].ball, soles[side].tip]);
  const lowest = series(frames, (f) => Math.min(...points.map((point) => point[f * 3 + 1])));
  const level = levelsOf(lowest, soles.floor, CLEAR * leg);
  // Over more frames where the feet move little in one: a jitter of millimetres is much against a 240th of a second.
  const once = quantile(Float64Array.from([0, 3].map((k) => speedsOf(points[k], frames, 1)).flatMap((v) => [...v])), 0.8);
  const width = Math.min(8, Math.max(1, Math.round((0.06 * leg) / Math.max(once, QUICK * leg * 0.5))));
  const speeds = points.map((point) => speedsOf(point, frames, width));
  const feet = [0, 3].map((first) => series(frames, (f) => Math.min(speeds[first][f], speeds[first + 1][f], speeds[first + 2][f])));
  const quick = Math.max(
    QUICK * leg,
    quantile(
      Float64Array.from(feet[0], (v, f) => Math.max(v, feet[1][f])),
      0.9,
    ),
  );
  const isUp = (f: number) => points.every((point, k) => point[f * 3 + 1] > level[f] + CLEAR * leg || speeds[k][f] > SLOW * quick);
  const hips = (f: number) => positions[(f * joints + body.hips) * 3 + 1];
  const stands = (f: number) => hips(f) - lowest[f] > 0.5 * leg;
  const falling: Flight[] = [];
  let other = 0;
  for (let f = 1; f < frames; f++) {
    if (!isUp(f) || isUp(f - 1)) continue;
    const from = f;
    while (f < frames && isUp(f)) f++;
    // Still in the air at the end of the take, or down on something that is not the feet.
    if (f >= frames || !stands(from - 1) || !stands(f) || f - from < 3) continue;
    const fit = parabola((i) => hips(from + i), f - from);
    const sag = (fit.fall * (f - from) ** 2) / 8;
    let clearance = 0;
    for (let k = from; k < f; k++) clearance = Math.max(clearance, lowest[k] - level[k]);
    const isFit =
      clearance > CLEAR * leg && fit.residual < Math.max(JITTER * leg, FIT * sag) && sag > LEAST_SAG * leg && sag < MOST_SAG * leg;
    if (isFit) falling.push({ from, to: f, fall: fit.fall, weight: fit.weight });
    else if (f - from >= 5 && (fit.residual > JITTER * leg || clearance <= CLEAR * leg)) other++;
  }
  return { falling, other };
}

/** Units a frame, over `width` frames to both sides where there are as many. */
function speedsOf(point: Float32Array, frames: number, width: number): Float64Array {
  return series(frames, (f) => {
    const a = Math.max(0, f - width) * 3;
    const b = Math.min(frames - 1, f + width) * 3;
    return b > a ? (Math.hypot(point[b] - point[a], point[b + 1] - point[a + 1], point[b + 2] - point[a + 2]) * 3) / (b - a) : 0;
  });
}

/** The ground under the feet per frame: the floor, or a steady higher level on which the lowest sole point rests for a while. */
function levelsOf(lowest: Float64Array, floor: number, clear: number): Float64Array {
  const n = lowest.length;
  const out = new Float64Array(n).fill(floor);
  const rests: { from: number; to: number; level: number }[] = [];
  for (let f = 0; f < n;) {
    let to = f + 1;
    let low = lowest[f];
    let high = lowest[f];
    while (to < n && Math.max(high, lowest[to]) - Math.min(low, lowest[to]) < clear / 2) {
      low = Math.min(low, lowest[to]);
      high = Math.max(high, lowest[to]);
      to++;
    }
    // As long as eight frames at the least: a foot at the top of a flight is never still for as long beside its rise.
    if (to - f >= 8 && low > floor + clear) rests.push({ from: f, to, level: median(lowest.subarray(f, to)) });
    f = Math.max(f + 1, to);
  }
  for (const { from, to, level } of rests) out.fill(level, from, to);
  return out;
}

/** Least squares y ≈ a + b·t − fall/2·t² over n frames. */
function parabola(y: (i: number) => number, n: number): { fall: number; residual: number; weight: number } {
  let s2 = 0,
    s4 = 0,
    sy = 0,
    sy1 = 0,
    sy2 = 0;
  for (let i = 0; i < n; i++) {
    const t = i - (n - 1) / 2;
    const v = y(i) - y(0);
    s2 += t * t;
    s4 += t ** 4;
    sy += v;
    sy1 += v * t;
    sy2 += v * t * t;
  }
  const c = (n * sy2 - s2 * sy) / (n * s4 - s2 * s2);
  const a = (sy - c * s2) / n;
  const b = sy1 / s2;
  let square = 0;
  for (let i = 0; i < n; i++) {
    const t = i - (n - 1) / 2;
    square += (y(i) - y(0) - a - b * t - c * t * t) ** 2;
  }
  return { fall: -2 * c, residual: Math.sqrt(square / n), weight: (n * s4 - s2 * s2) / (4 * n) };
}
