import { movePoint } from '../model/floor-transform';
import { solveFloor } from './align';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { cutMotion, type Motion } from '../model/motion';
import { resample } from '../model/resample';

/** How two motions of skeletons with joints in common differ. */
export interface Comparison {
  /** Per joint in common: the mean and greatest distance, cm, and the frame of the first motion where it is greatest; worst first. */
  readonly joints: readonly { readonly joint: string; readonly meanCm: number; readonly worstCm: number; readonly frame: number }[];
  /** Root mean square over the joints, cm, per frame of the first motion as far as both go. */
  readonly distanceCm: Float32Array;
}

/** Where two motions stand while they are compared: each where it was captured, or the second brought onto the first in every frame, over the floor. */
export type Standing = 'captured' | 'over';

/**
 * Compares two motions second by second from their starts: the second is resampled to the first's rate where they differ. Joints are
 * matched by name.
 *
 * @param a, b metres
 *
 * @example
 * compareMotions(motion, motion).joints[0].worstCm; // 0
 */
export function compareMotions(a: Motion, b: Motion, standing: Standing = 'captured'): Comparison {
  const ratio = b.fps / a.fps;
  const frames = Math.max(1, Math.min(a.frames, Math.floor((b.frames - 1) / ratio + 1e-6) + 1));
  const other = Math.abs(ratio - 1) < 1e-6 ? cutMotion(b, 0, frames - 1) : resample(b, frames, a.fps, { step: ratio });
  const p = forwardKinematics(cutMotion(a, 0, frames - 1));
  const q = forwardKinematics(other);
  const numberIn = new Map(b.skeleton.joints.map(({ name }, j) => [name, j]));
  const pairs = a.skeleton.joints.flatMap(({ name }, j) => {
    const k = numberIn.get(name);
    return k === undefined ? [] : [{ name, j, k }];
  });
  if (standing === 'over') bringOver(p, q, pairs, frames);
  const squares = new Float64Array(frames);
  const joints = pairs.map(({ name, j, k }) => {
    let sum = 0;
    let worst = 0;
    let at = 0;
    for (let f = 0; f < frames; f++) {
      const i = (f * p.joints + j) * 3;
      const o = (f * q.joints + k) * 3;
      const d = Math.hypot(
        p.positions[i] - q.positions[o],
        p.positions[i + 1] - q.positions[o + 1],
        p.positions[i + 2] - q.positions[o + 2],
      );
      sum += d;
      squares[f] += d * d;
      if (d > worst) {
        worst = d;
        at = f;
      }
    }
    return { joint: name, meanCm: (sum / frames) * 100, worstCm: worst * 100, frame: at };
  });
  return {
    joints: joints.sort((x, y) => y.worstCm - x.worstCm),
    distanceCm: Float32Array.from(squares, (square) => Math.sqrt(square / Math.max(1, pairs.length)) * 100),
  };
}

/** In place: turns and shifts the second's joints over the floor onto the first's, frame by frame. */
function bringOver(p: Globals, q: Globals, pairs: readonly { readonly j: number; readonly k: number }[], frames: number): void {
  for (let f = 0; f < frames; f++) {
    const sums = { total: 0, ax: 0, az: 0, bx: 0, bz: 0, cross: 0, dot: 0 };
    for (const { j, k } of pairs) {
      const [i, o] = [(f * p.joints + j) * 3, (f * q.joints + k) * 3];
      const [px, pz, qx, qz] = [p.positions[i], p.positions[i + 2], q.positions[o], q.positions[o + 2]];
      sums.total++;
      sums.ax += px;
      sums.az += pz;
      sums.bx += qx;
      sums.bz += qz;
      sums.cross += px * qz - pz * qx;
      sums.dot += px * qx + pz * qz;
    }
    if (sums.total === 0) return;
    const over = solveFloor(sums);
    for (const { k } of pairs) {
      const o = (f * q.joints + k) * 3;
      movePoint(q.positions, o, over, q.positions, o);
    }
  }
}
