import { solveFloor } from '../measure/align';
import type { Groundwork } from '../measure/groundwork';

/** Frames on both sides of an instant that are compared with it, seconds, and how many of them. */
const WINDOW = 0.1;
const SAMPLES = 5;
/** Velocities count like so many seconds of movement. */
const VELOCITY_SECONDS = 0.1;

/** What is needed of a motion to hold its instants against another's. */
export interface PairSide {
  readonly frames: number;
  /** Numbers a frame: of each joint its place, and its velocity times 0.1 s, all times the root of its weight. */
  readonly width: number;
  readonly rows: Float64Array;
  /** Weighted sums of each frame: x and z of the places, squares of the places, squares of the velocities. */
  readonly sums: Float64Array;
  /** The roots of the weights. */
  readonly roots: readonly number[];
}

/** Numbers of a frame's sums. */
const SUMS = 4;

/** @param parts of the body that both motions have */
export function pairSide({ globals, weighted, motion }: Groundwork, parts: readonly string[]): PairSide {
  const { positions, joints: J, frames } = globals;
  const chosen = parts.map((part) => weighted.parts.indexOf(part));
  const total = chosen.reduce((sum, k) => sum + weighted.weights[k], 0);
  const roots = chosen.map((k) => Math.sqrt(weighted.weights[k] / total));
  const width = chosen.length * 6;
  const rows = new Float64Array(frames * width);
  const sums = new Float64Array(frames * SUMS);
  // Near the origin nothing is lost when squares are taken from one another.
  const [ox, oz] = [positions[0], positions[2]];
  for (let f = 0; f < frames; f++) {
    const [before, after] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    const perSecond = after > before ? (motion.fps / (after - before)) * VELOCITY_SECONDS : 0;
    chosen.forEach((k, i) => {
      const j = weighted.joints[k];
      const at = f * width + i * 6;
      for (let d = 0; d < 3; d++) {
        rows[at + d] = (positions[(f * J + j) * 3 + d] - (d === 0 ? ox : d === 2 ? oz : 0)) * roots[i];
        rows[at + 3 + d] = (positions[(after * J + j) * 3 + d] - positions[(before * J + j) * 3 + d]) * perSecond * roots[i];
        sums[f * SUMS + 2] += rows[at + d] ** 2;
        sums[f * SUMS + 3] += rows[at + 3 + d] ** 2;
      }
      sums[f * SUMS] += rows[at] * roots[i];
      sums[f * SUMS + 1] += rows[at + 2] * roots[i];
    });
  }
  return { frames, width, rows, sums, roots };
}

/** The body parts that both motions have. */
export const commonParts = (a: Groundwork, b: Groundwork): string[] => a.weighted.parts.filter((part) => b.weighted.parts.includes(part));

/** Frames of the window, from its middle. */
export function windowOf(fps: number): Int32Array {
  const reach = Math.max(1, Math.round(WINDOW * fps));
  return Int32Array.from({ length: SAMPLES }, (_, i) => Math.round(((2 * i) / (SAMPLES - 1) - 1) * reach));
}

/** Sums over the frames of a window: how many, x and z of the one and of the other, squares of the places and of the velocities. */
const WINDOW_SUMS = 7;
/** Products of two frames, summed over the joints: places (by z and x along, across, and by height), then velocities. */
const TERMS = 6;

/**
 * The pose distance of an instant of one motion and an instant of another, metres: after the best turn and shift on the floor, over a window of frames, the
 * weighted root mean square over joints of places and, added, of velocities. Source: Kovar, Gleicher, Pighin, *Motion Graphs*, 2002.
 */
export function pairDistance(a: PairSide, fa: number, b: PairSide, fb: number, window: Int32Array): number {
  const { sums, terms } = SCRATCH;
  clear(sums);
  clear(terms);
  for (let w = 0; w < window.length; w++) {
    if (addSums(a, fa + window[w], b, fb + window[w], sums)) addProducts(a, fa + window[w], b, fb + window[w], terms, 0);
  }
  return distanceOf(sums, terms);
}

/** Used again and again; nothing of it is kept from one distance to the next. */
const SCRATCH = { sums: new Float64Array(WINDOW_SUMS), terms: new Float64Array(TERMS) };

/** Quicker than the general way for so few. */
function clear(values: Float64Array): void {
  for (let i = 0; i < values.length; i++) values[i] = 0;
}

/** In place: adds the sums of a frame of either motion. @returns false where one has no such frame */
function addSums(a: PairSide, fa: number, b: PairSide, fb: number, into: Float64Array): boolean {
  if (fa < 0 || fb < 0 || fa >= a.frames || fb >= b.frames) return false;
  const sa = fa * SUMS,
    sb = fb * SUMS;
  into[0] += 1;
  into[1] += a.sums[sa];
  into[2] += a.sums[sa + 1];
  into[3] += b.sums[sb];
  into[4] += b.sums[sb + 1];
  into[5] += a.sums[sa + 2] + b.sums[sb + 2];
  into[6] += a.sums[sa + 3] + b.sums[sb + 3];
  return true;
}

/** In place: adds the products of a frame of either motion, at an index. The hot loop: ten multiplications a joint. */
function addProducts(a: PairSide, fa: number, b: PairSide, fb: number, into: Float64Array, at: number): void {
  const { rows: p, width } = a;
  const { rows: q } = b;
  let dot = 0,
    cross = 0,
    heights = 0,
    vCross = 0,
    vDot = 0,
    vHeights = 0;
  for (let i = fa * width, j = fb * width, end = i + width; i < end; i += 6, j += 6) {
    dot += p[i] * q[j] + p[i + 2] * q[j + 2];
    cross += p[i] * q[j + 2] - p[i + 2] * q[j];
    heights += p[i + 1] * q[j + 1];
    vDot += p[i + 3] * q[j + 3] + p[i + 5] * q[j + 5];
    vCross += p[i + 3] * q[j + 5] - p[i + 5] * q[j + 3];
    vHeights += p[i + 4] * q[j + 4];
  }
  into[at] += dot;
  into[at + 1] += cross;
  into[at + 2] += heights;
  into[at + 3] += vDot;
  into[at + 4] += vCross;
  into[at + 5] += vHeights;
}

function distanceOf(sums: Float64Array, terms: Float64Array): number {
  const total = sums[0];
  if (total === 0) return Infinity;
  const ax = sums[1],
    az = sums[2],
    bx = sums[3],
    bz = sums[4];
  const dot = terms[0],
    cross = terms[1];
  const { turn, x, z } = solveFloor({ total, ax, az, bx, bz, cross, dot });
  const c = Math.cos(turn),
    s = Math.sin(turn);
  // Σ |p − T q|², multiplied out; T q = R q + t.
  const turned = c * dot + s * cross;
  const toShift = x * ax + z * az;
  const onShift = x * (c * bx + s * bz) + z * (c * bz - s * bx);
  const places = sums[5] - 2 * (turned + terms[2] + toShift - onShift) + total * (x * x + z * z);
  const speeds = sums[6] - 2 * (c * terms[3] + s * terms[4] + terms[5]);
  return Math.sqrt(Math.max(0, places) / total) + Math.sqrt(Math.max(0, speeds) / total);
}

/** Instants of two motions, a step apart, from a frame of each on. */
export interface PairGrid {
  readonly from: readonly [number, number];
  readonly counts: readonly [number, number];
  readonly step: number;
}

/**
 * The distances of all pairs of a grid, `row · columns + column`, over a window of five instants a step apart: frames of both are multiplied once, and
 * their products added up along the diagonals. Costs as much as a fifth of the pairs by themselves.
 */
export function gridDistances(a: PairSide, b: PairSide, { from: [a0, b0], counts: [rows, columns], step }: PairGrid): Float64Array {
  const out = new Float64Array(rows * columns);
  const wide = columns + 4;
  const products = (r: number, into: Float64Array) => {
    const ia = a0 + r * step;
    into.fill(0);
    if (ia < 0 || ia >= a.frames) return;
    for (let c = 0; c < wide; c++) {
      const ib = b0 + (c - 2) * step;
      if (ib >= 0 && ib < b.frames) addProducts(a, ia, b, ib, into, c * TERMS);
    }
  };
  // The last five rows of products, by turns.
  const ring = Array.from({ length: 5 }, () => new Float64Array(wide * TERMS));
  for (let r = -2; r < 2; r++) products(r, ring[(r + 5) % 5]);
  const { sums, terms } = SCRATCH;
  for (let r = 0; r < rows; r++) {
    products(r + 2, ring[(r + 2) % 5]);
    for (let c = 0; c < columns; c++) {
      clear(sums);
      clear(terms);
      for (let k = -2; k <= 2; k++) {
        if (!addSums(a, a0 + (r + k) * step, b, b0 + (c + k) * step, sums)) continue;
        const row = ring[(r + k + 5) % 5];
        for (let n = 0, i = (c + 2 + k) * TERMS; n < TERMS; n++) terms[n] += row[i + n];
      }
      out[r * columns + c] = distanceOf(sums, terms);
    }
  }
  return out;
}

/** A pair of instants that is nearer than all those about it. */
export interface NearPair {
  readonly a: number;
  readonly b: number;
  /** Metres. */
  readonly distance: number;
}

/** Pairs nearer to one another than this in both motions are one place, seconds. */
const APART = 0.12;

/** Distances are told apart by so much of a metre. */
const LEVELS = 1e5;

/** Of some pairs the best ones, each apart from those before it. */
export function bestApart(pairs: readonly NearPair[], fps: number, most: number): NearPair[] {
  const apart = Math.round(APART * fps);
  const out: NearPair[] = [];
  // Of pairs that are alike to a hundredth of a millimetre the earlier one is taken, whichever way they were found.
  const level = ({ distance }: NearPair) => Math.round(distance * LEVELS);
  for (const pair of [...pairs].sort((p, q) => level(p) - level(q) || p.a - q.a || p.b - q.b)) {
    if (out.length === most) break;
    if (out.every((own) => Math.abs(own.a - pair.a) > apart || Math.abs(own.b - pair.b) > apart)) out.push(pair);
  }
  return out;
}
