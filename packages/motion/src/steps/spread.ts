import { exp, log, multiply, multiplyInverse } from '../math/quat';
import { solveLinear } from '../math/solve';
import { smoothStep5 } from '../math/smooth';
import { moveFrames, type FloorTransform } from '../model/floor-transform';
import { copyMotion, cutMotion, type Motion } from '../model/motion';

/**
 * Takes up what a cycle's end lacks to meet its beginning, half on each side of the seam, fading out over `seconds` to either
 * side (or, place, evenly over the whole cycle): the difference of place exactly, that of velocity as a fit over the frames about the seam
 * sees it.
 *
 * @param motion frames 0 to F, where F should be 0 one cycle on
 * @param cycle the cycle's turn and shift
 * @param seconds null: place is spread over the whole cycle
 * @param share of the difference of velocity that is taken up: a landing at the seam looks like one, too
 */
export function spreadDifference(motion: Motion, cycle: FloorTransform, seconds: number | null, share = 1): Motion {
  const out = copyMotion(motion);
  const n = motion.frames - 1;
  const joints = motion.skeleton.joints.length;
  const reach = Math.min(Math.floor(n / 2), Math.max(2, Math.round((seconds ?? Infinity) * motion.fps)));
  const bends = Math.min(reach, Math.max(2, Math.round(0.3 * motion.fps)));
  const m = Math.min(Math.floor(n / 2), Math.max(3, Math.round(0.08 * motion.fps)));
  const kink = kinkWeights(m);
  // The first frames, one cycle on: what the last ones should lead into.
  const start = cutMotion(motion, 0, m);
  moveFrames(start, cycle);

  /** `sample(end?, frame, out)`: a frame's offset from the first frame one cycle on. */
  const correct = (
    sample: (isEnd: boolean, frame: number, out: Float64Array) => void,
    apply: (frame: number, by: Float64Array) => void,
  ) => {
    const jump = new Float64Array(3);
    const velocity = new Float64Array(3);
    const value = new Float64Array(3);
    for (let i = 0; i <= m; i++) {
      sample(true, n - m + i, value);
      for (let k = 0; k < 3; k++) velocity[k] -= kink[i] * value[k];
      if (i === m) jump.set(value);
      sample(false, i, value);
      for (let k = 0; k < 3; k++) velocity[k] -= kink[m + 1 + i] * value[k];
    }
    const by = new Float64Array(3);
    for (let f = 0; f <= reach; f++) {
      const fade = seconds === null ? 1 - (2 * f) / n : 1 - smoothStep5(f / reach);
      // A wrong guess of the velocity grows with the distance from the seam: it fades sooner.
      const bend = (share * f * (1 - smoothStep5(f / Math.min(bends, m + 2)))) / 2;
      // Both halves: at the beginning up by half the jump, at the end down by half of it, and each bent by half the kink.
      for (let k = 0; k < 3; k++) by[k] = (fade * jump[k]) / 2 + velocity[k] * bend;
      apply(f, by);
      for (let k = 0; k < 3; k++) by[k] = (-fade * jump[k]) / 2 + velocity[k] * bend;
      apply(n - f, by);
    }
  };

  correct(
    (isEnd, f, d) => {
      const source = isEnd ? motion : start;
      for (let k = 0; k < 3; k++) d[k] = source.rootPositions[f * 3 + k] - start.rootPositions[k];
    },
    (f, by) => {
      // Corrections are found one cycle on; those of the beginning are turned back with it.
      const turn = f <= reach ? -cycle.turn : 0;
      const c = Math.cos(turn),
        s = Math.sin(turn);
      out.rootPositions[f * 3] += c * by[0] + s * by[2];
      out.rootPositions[f * 3 + 1] += by[1];
      out.rootPositions[f * 3 + 2] += c * by[2] - s * by[0];
    },
  );
  const q = [0, 0, 0, 1];
  for (let j = 0; j < joints; j++) {
    correct(
      (isEnd, f, d) => {
        multiplyInverse(q, 0, start.rotations, j * 4, (isEnd ? motion : start).rotations, (f * joints + j) * 4);
        log(d, 0, q, 0);
      },
      (f, by) => {
        exp(q, 0, by, 0);
        multiply(out.rotations, (f * joints + j) * 4, out.rotations, (f * joints + j) * 4, q, 0);
      },
    );
  }
  return out;
}

/**
 * Weights over the samples at −m … −0 and +0 … +m that give the change of velocity at 0 (per frame) of the least-squares fit of
 * a cubic with a jump and a kink: fits, unlike differences of neighbours, are not led astray by noise.
 */
function kinkWeights(m: number): Float64Array {
  const rows: number[][] = [];
  for (let i = -m; i <= 0; i++) rows.push([1, i, i * i, i ** 3, 0, 0]);
  for (let i = 0; i <= m; i++) rows.push([1, i, i * i, i ** 3, 1, i]);
  const normal = Array.from({ length: 6 }, (_, a) => Array.from({ length: 6 }, (_, b) => rows.reduce((sum, r) => sum + r[a] * r[b], 0)));
  const solved = solveLinear(normal, [0, 0, 0, 0, 0, 1]);
  return Float64Array.from(rows, (r) => r.reduce((sum, value, k) => sum + value * solved[k], 0));
}
