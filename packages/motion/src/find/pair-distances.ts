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

/**
 * The pose distance of an instant of one motion and an instant of another, metres: after the best turn and shift on the floor, over a window of frames, the
 * weighted root mean square over joints of places and, added, of velocities. Source: Kovar, Gleicher, Pighin, *Motion Graphs*, 2002.
 */
export function pairDistance(a: PairSide, fa: number, b: PairSide, fb: number, window: Int32Array): number {
  const { rows: p, sums: sa, width } = a;
  const { rows: q, sums: sb } = b;
  let total = 0,
    ax = 0,
    az = 0,
    bx = 0,
    bz = 0,
    cross = 0,
    dot = 0,
    heights = 0,
    squares = 0,
    vCross = 0,
    vDot = 0,
    vHeights = 0,
    vSquares = 0;
  for (let w = 0; w < window.length; w++) {
    const ia = fa + window[w],
      ib = fb + window[w];
    if (ia < 0 || ib < 0 || ia >= a.frames || ib >= b.frames) continue;
    total += 1;
    ax += sa[ia * SUMS];
    az += sa[ia * SUMS + 1];
    bx += sb[ib * SUMS];
    bz += sb[ib * SUMS + 1];
    squares += sa[ia * SUMS + 2] + sb[ib * SUMS + 2];
    vSquares += sa[ia * SUMS + 3] + sb[ib * SUMS + 3];
    // The hot loop: ten multiplications a joint.
    for (let i = ia * width, j = ib * width, end = i + width; i < end; i += 6, j += 6) {
      dot += p[i] * q[j] + p[i + 2] * q[j + 2];
      cross += p[i] * q[j + 2] - p[i + 2] * q[j];
      heights += p[i + 1] * q[j + 1];
      vDot += p[i + 3] * q[j + 3] + p[i + 5] * q[j + 5];
      vCross += p[i + 3] * q[j + 5] - p[i + 5] * q[j + 3];
      vHeights += p[i + 4] * q[j + 4];
    }
  }
  return distanceOf({ total, ax, az, bx, bz, squares, vSquares, dot, cross, heights, vDot, vCross, vHeights });
}

/** Sums over the joints and the frames of a window, of which the distance is made. */
interface WindowSums {
  readonly total: number;
  readonly ax: number;
  readonly az: number;
  readonly bx: number;
  readonly bz: number;
  readonly squares: number;
  readonly vSquares: number;
  readonly dot: number;
  readonly cross: number;
  readonly heights: number;
  readonly vDot: number;
  readonly vCross: number;
  readonly vHeights: number;
}

function distanceOf({ total, ax, az, bx, bz, squares, vSquares, dot, cross, heights, vDot, vCross, vHeights }: WindowSums): number {
  if (total === 0) return Infinity;
  const { turn, x, z } = solveFloor({ total, ax, az, bx, bz, cross, dot });
  const c = Math.cos(turn),
    s = Math.sin(turn);
  // Σ |p − T q|², multiplied out; T q = R q + t.
  const turned = c * dot + s * cross;
  const toShift = x * ax + z * az;
  const onShift = x * (c * bx + s * bz) + z * (c * bz - s * bx);
  const places = squares - 2 * (turned + heights + toShift - onShift) + total * (x * x + z * z);
  const speeds = vSquares - 2 * (c * vDot + s * vCross + vHeights);
  return Math.sqrt(Math.max(0, places) / total) + Math.sqrt(Math.max(0, speeds) / total);
}

/** Instants of two motions, a step apart, from a frame of each on. */
export interface PairGrid {
  readonly from: readonly [number, number];
  readonly counts: readonly [number, number];
  readonly step: number;
}

/** Numbers of a pair of frames: products of places and of velocities, turned and not. */
const TERMS = 6;

/**
 * The distances of all pairs of a grid, `row · columns + column`, over a window of five instants a step apart: frames of both are multiplied once, and
 * their products added up along the diagonals. Costs as much as a fifth of the pairs by themselves.
 */
export function gridDistances(a: PairSide, b: PairSide, { from: [a0, b0], counts: [rows, columns], step }: PairGrid): Float64Array {
  const out = new Float64Array(rows * columns);
  const wide = columns + 4;
  const frameOf = (c: number) => b0 + (c - 2) * step;
  const products = (r: number, into: Float64Array) => {
    const ia = a0 + r * step;
    into.fill(0);
    if (ia < 0 || ia >= a.frames) return;
    const { rows: p, width } = a;
    const { rows: q } = b;
    for (let c = 0; c < wide; c++) {
      const ib = frameOf(c);
      if (ib < 0 || ib >= b.frames) continue;
      let dot = 0,
        cross = 0,
        heights = 0,
        vCross = 0,
        vDot = 0,
        vHeights = 0;
      for (let i = ia * width, j = ib * width, end = i + width; i < end; i += 6, j += 6) {
        dot += p[i] * q[j] + p[i + 2] * q[j + 2];
        cross += p[i] * q[j + 2] - p[i + 2] * q[j];
        heights += p[i + 1] * q[j + 1];
        vDot += p[i + 3] * q[j + 3] + p[i + 5] * q[j + 5];
        vCross += p[i + 3] * q[j + 5] - p[i + 5] * q[j + 3];
        vHeights += p[i + 4] * q[j + 4];
      }
      const at = c * TERMS;
      into[at] = dot;
      into[at + 1] = cross;
      into[at + 2] = heights;
      into[at + 3] = vDot;
      into[at + 4] = vCross;
      into[at + 5] = vHeights;
    }
  };
  // The last five rows of products, by turns.
  const ring = Array.from({ length: 5 }, () => new Float64Array(wide * TERMS));
  for (let r = -2; r < 2; r++) products(r, ring[(r + 5) % 5]);
  const t = new Float64Array(TERMS);
  for (let r = 0; r < rows; r++) {
    products(r + 2, ring[(r + 2) % 5]);
    for (let c = 0; c < columns; c++) {
      let total = 0,
        ax = 0,
        az = 0,
        bx = 0,
        bz = 0,
        squares = 0,
        vSquares = 0;
      t.fill(0);
      for (let k = -2; k <= 2; k++) {
        const ia = a0 + (r + k) * step,
          ib = b0 + (c + k) * step;
        if (ia < 0 || ib < 0 || ia >= a.frames || ib >= b.frames) continue;
        const sa = ia * SUMS,
          sb = ib * SUMS;
        total += 1;
        ax += a.sums[sa];
        az += a.sums[sa + 1];
        bx += b.sums[sb];
        bz += b.sums[sb + 1];
        squares += a.sums[sa + 2] + b.sums[sb + 2];
        vSquares += a.sums[sa + 3] + b.sums[sb + 3];
        const row = ring[(r + k + 5) % 5];
        for (let n = 0, i = (c + 2 + k) * TERMS; n < TERMS; n++) t[n] += row[i + n];
      }
      out[r * columns + c] = distanceOf({
        total,
        ax,
        az,
        bx,
        bz,
        squares,
        vSquares,
        dot: t[0],
        cross: t[1],
        heights: t[2],
        vDot: t[3],
        vCross: t[4],
        vHeights: t[5],
      });
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

/** Of some pairs the best ones, each apart from those before it. */
export function bestApart(pairs: readonly NearPair[], fps: number, most: number): NearPair[] {
  const apart = Math.round(APART * fps);
  const out: NearPair[] = [];
  for (const pair of [...pairs].sort((p, q) => p.distance - q.distance)) {
    if (out.length === most) break;
    if (out.every((own) => Math.abs(own.a - pair.a) > apart || Math.abs(own.b - pair.b) > apart)) out.push(pair);
  }
  return out;
}
