import type { Groundwork } from '../measure/groundwork';
import { legLength } from '../measure/leg-length';

/** Poses that can be held against those of another skeleton: `frame · width` numbers, in leg lengths, each times the root of its weight. */
export interface Poses {
  readonly fps: number;
  readonly frames: number;
  readonly width: number;
  readonly values: Float32Array;
}

/**
 * The poses of two takes over the body parts that both have: where each is from the hips, in the frame's own heading, and how high the
 * hips are over the floor. Neither size nor place on the floor, facing, rate or joint names matter. The squared difference of two rows is
 * the weighted mean square distance in leg lengths.
 */
export function posesOf(a: Groundwork, b: Groundwork): readonly [Poses, Poses] {
  const common = a.weighted.parts.filter((part) => b.weighted.parts.includes(part));
  return [rows(a, common), rows(b, common)];
}

function rows(ground: Groundwork, parts: readonly string[]): Poses {
  const { globals, headings, weighted, motion, body, soles } = ground;
  const { positions, joints: J, frames } = globals;
  const chosen = parts.map((part) => weighted.parts.indexOf(part));
  const total = chosen.reduce((sum, k) => sum + weighted.weights[k], 0);
  const leg = legLength(globals, body);
  const width = chosen.length * 3;
  const values = new Float32Array(frames * width);
  for (let f = 0; f < frames; f++) {
    const c = Math.cos(headings[f]) / leg;
    const s = Math.sin(headings[f]) / leg;
    const hips = (f * J + body.hips) * 3;
    chosen.forEach((k, i) => {
      const j = weighted.joints[k];
      const p = (f * J + j) * 3;
      const root = Math.sqrt(weighted.weights[k] / total);
      const x = positions[p] - positions[hips];
      const z = positions[p + 2] - positions[hips + 2];
      const o = f * width + i * 3;
      values[o] = (c * x - s * z) * root;
      values[o + 1] = ((positions[p + 1] - (j === body.hips ? soles.floor : positions[hips + 1])) / leg) * root;
      values[o + 2] = (s * x + c * z) * root;
    });
  }
  return { fps: motion.fps, frames, width, values };
}

/** Squared difference of row `a` of one and the instant `t` (in frames, between rows interpolated) of the other. */
export function poseDistance(p: Poses, a: number, q: Poses, t: number): number {
  const low = Math.min(q.frames - 1, Math.max(0, Math.floor(t)));
  const high = Math.min(q.frames - 1, low + 1);
  const u = Math.min(1, Math.max(0, t - low));
  let sum = 0;
  for (let k = 0; k < p.width; k++) {
    const d = p.values[a * p.width + k] - (q.values[low * p.width + k] * (1 - u) + q.values[high * p.width + k] * u);
    sum += d * d;
  }
  return sum;
}
