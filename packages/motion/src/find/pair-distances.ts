import { solveFloor } from '../measure/align';
import type { Groundwork } from '../measure/groundwork';

/** Frames on both sides of an instant that are compared with it, seconds, and how many of them. */
const WINDOW = 0.1;
const SAMPLES = 5;
/** Velocities count like so many seconds of movement. */
const VELOCITY_SECONDS = 0.1;

/** What is needed of a motion to hold its instants against another's. */
export interface PairSide {
  readonly ground: Groundwork;
  /** Places of the joints that count, three numbers each, and their velocities times 0.1 s: `frame · 6 · joints`. */
  readonly rows: Float64Array;
  readonly width: number;
  readonly weights: readonly number[];
}

/** @param parts of the body that both motions have */
export function pairSide(ground: Groundwork, parts: readonly string[]): PairSide {
  const { globals, weighted, motion } = ground;
  const { positions, joints: J, frames } = globals;
  const chosen = parts.map((part) => weighted.parts.indexOf(part));
  const total = chosen.reduce((sum, k) => sum + weighted.weights[k], 0);
  const width = chosen.length * 6;
  const rows = new Float64Array(frames * width);
  for (let f = 0; f < frames; f++) {
    const [before, after] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    const perSecond = after > before ? (motion.fps / (after - before)) * VELOCITY_SECONDS : 0;
    chosen.forEach((k, i) => {
      const j = weighted.joints[k];
      for (let d = 0; d < 3; d++) {
        rows[f * width + i * 6 + d] = positions[(f * J + j) * 3 + d];
        rows[f * width + i * 6 + 3 + d] = (positions[(after * J + j) * 3 + d] - positions[(before * J + j) * 3 + d]) * perSecond;
      }
    });
  }
  return { ground, rows, width, weights: chosen.map((k) => weighted.weights[k] / total) };
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
  const { rows: p, width, weights } = a;
  const q = b.rows;
  const [na, nb] = [p.length / width, q.length / width];
  const joints = weights.length;
  let [total, ax, az, bx, bz, cross, dot] = [0, 0, 0, 0, 0, 0, 0];
  for (let w = 0; w < window.length; w++) {
    const [ia, ib] = [fa + window[w], fb + window[w]];
    if (ia < 0 || ib < 0 || ia >= na || ib >= nb) continue;
    for (let k = 0; k < joints; k++) {
      const [i, j, weight] = [ia * width + k * 6, ib * width + k * 6, weights[k]];
      const px = p[i],
        pz = p[i + 2],
        qx = q[j],
        qz = q[j + 2];
      total += weight;
      ax += weight * px;
      az += weight * pz;
      bx += weight * qx;
      bz += weight * qz;
      dot += weight * (px * qx + pz * qz);
      cross += weight * (px * qz - pz * qx);
    }
  }
  if (total === 0) return Infinity;
  const { turn, x, z } = solveFloor({ total, ax, az, bx, bz, cross, dot });
  const c = Math.cos(turn),
    s = Math.sin(turn);
  let [places, speeds] = [0, 0];
  for (let w = 0; w < window.length; w++) {
    const [ia, ib] = [fa + window[w], fb + window[w]];
    if (ia < 0 || ib < 0 || ia >= na || ib >= nb) continue;
    for (let k = 0; k < joints; k++) {
      const [i, j, weight] = [ia * width + k * 6, ib * width + k * 6, weights[k]];
      const dx = p[i] - (c * q[j] + s * q[j + 2] + x),
        dy = p[i + 1] - q[j + 1],
        dz = p[i + 2] - (c * q[j + 2] - s * q[j] + z);
      places += weight * (dx * dx + dy * dy + dz * dz);
      const ex = p[i + 3] - (c * q[j + 3] + s * q[j + 5]),
        ey = p[i + 4] - q[j + 4],
        ez = p[i + 5] - (c * q[j + 5] - s * q[j + 3]);
      speeds += weight * (ex * ex + ey * ey + ez * ez);
    }
  }
  return Math.sqrt(places / total) + Math.sqrt(speeds / total);
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
