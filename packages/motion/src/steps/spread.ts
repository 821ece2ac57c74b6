import { exp, log, multiply, multiplyInverse } from '../math/quat';
import { moveFrames, type FloorTransform } from '../model/floor-transform';
import { copyMotion, cutMotion, type Motion } from '../model/motion';

/**
 * Spreads what a cycle's end lacks to meet its beginning over the whole cycle. The correction is a sum of Bernoulli polynomials
 * B₁, B₂/2!, B₃/3!: the k-th has a jump of exactly one in its k-th derivative where the cycle closes and none in the others, so
 * that differences of place, velocity and acceleration are each taken up by the flattest curve there is for it.
 *
 * @param motion frames 0 to F, where F should be 0 one cycle on
 * @param cycle the cycle's turn and shift
 */
export function spreadDifference(motion: Motion, cycle: FloorTransform): Motion {
  const out = copyMotion(motion);
  const n = motion.frames - 1;
  const joints = motion.skeleton.joints.length;
  const count = Math.min(3, motion.frames);
  // The first frames, one cycle on: what the last ones should lead into.
  const start = cutMotion(motion, 0, count - 1);
  moveFrames(start, cycle);
  const end = cutMotion(motion, motion.frames - count, n);

  const correct = (width: number, difference: (endFrame: number, startFrame: number, out: Float64Array) => void, apply: (frame: number, by: Float64Array) => void) => {
    const jumps = jumpsOf(width, n, count, difference);
    const by = new Float64Array(width);
    for (let f = 0; f <= n; f++) {
      const t = f / n;
      const b1 = t - 0.5, b2 = (t * t - t + 1 / 6) / 2, b3 = (t * t * t - 1.5 * t * t + 0.5 * t) / 6;
      for (let k = 0; k < width; k++) by[k] = -(jumps[0][k] * b1 + jumps[1][k] * b2 + jumps[2][k] * b3);
      apply(f, by);
    }
  };

  correct(
    3,
    (e, s, d) => {
      for (let k = 0; k < 3; k++) d[k] = end.rootPositions[e * 3 + k] - start.rootPositions[s * 3 + k];
    },
    (f, by) => {
      for (let k = 0; k < 3; k++) out.rootPositions[f * 3 + k] += by[k];
    },
  );
  const q = [0, 0, 0, 1];
  for (let j = 0; j < joints; j++) {
    correct(
      3,
      (e, s, d) => {
        multiplyInverse(q, 0, start.rotations, (s * joints + j) * 4, end.rotations, (e * joints + j) * 4);
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
 * How far place, velocity and acceleration (per cycle, per cycle²) of the end are from those of the beginning, by one-sided differences
 * of the offsets between the last frames and the first ones.
 */
function jumpsOf(
  width: number,
  n: number,
  count: number,
  difference: (endFrame: number, startFrame: number, out: Float64Array) => void,
): Float64Array[] {
  const at = (e: number, s: number) => {
    const d = new Float64Array(width);
    difference(e, s, d);
    return d;
  };
  const last = count - 1;
  const place = at(last, 0);
  if (count < 3) return [place, new Float64Array(width), new Float64Array(width)];
  const e1 = at(last - 1, 0), e2 = at(last - 2, 0), s1 = at(last, 1), s2 = at(last, 2);
  const velocity = new Float64Array(width);
  const acceleration = new Float64Array(width);
  for (let k = 0; k < width; k++) {
    // Everything relative to the first frame of the beginning, which is 0; `place` is then the end's last frame.
    const end = [place[k], e1[k], e2[k]];
    const start = [place[k] - s1[k], place[k] - s2[k]];
    velocity[k] = ((3 * end[0] - 4 * end[1] + end[2]) / 2 - (4 * start[0] - start[1]) / 2) * n;
    acceleration[k] = (end[0] - 2 * end[1] + end[2] - (start[1] - 2 * start[0])) * n * n;
  }
  return [place, velocity, acceleration];
}
