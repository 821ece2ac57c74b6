import { quantile } from '../math/statistics';
import { rotate } from '../math/quat';
import { worldMotion, type Clip } from '../model/clip';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { cycleTransform, pickFrames } from '../model/repeat';

const OFF = [
  [0, 0, 0],
  [0.1, 0, 0],
  [0, 0.1, 0],
] as const;
const LEAST = 0.0005;

/**
 * The tick of a closed loop: per joint, and on two points held 10 cm off it, how far frame 0 is from where the two frames on each
 * side predict it (by the cubic through them), over the 95th percentile of the same at that point's other frames, at
 * least 0.5 mm. The worst point counts. About 1 is what the motion itself does.
 */
export function tick(clip: Pick<Clip, 'motion' | 'travel'>): number {
  const motion = worldMotion(clip);
  const last = motion.frames - 1;
  if (last < 8) return 0;
  const wrapped = wrap(motion, cycleTransform(clip));
  const globals = forwardKinematics(wrapped);
  const J = globals.joints;
  const n = globals.frames;
  const point = new Float64Array(n * 3);
  const residual = new Float64Array(last);
  let worst = 0;
  for (let j = 0; j < J; j++) {
    for (const off of OFF) {
      for (let f = 0; f < n; f++) {
        rotate(point, f * 3, globals.rotations, (f * J + j) * 4, off, 0);
        for (let k = 0; k < 3; k++) point[f * 3 + k] += globals.positions[(f * J + j) * 3 + k];
      }
      for (let f = 0; f < last; f++) {
        const i = (f + 2) * 3;
        let square = 0;
        for (let k = 0; k < 3; k++) {
          const predicted = (4 * (point[i - 3 + k] + point[i + 3 + k]) - point[i - 6 + k] - point[i + 6 + k]) / 6;
          square += (point[i + k] - predicted) ** 2;
        }
        residual[f] = Math.sqrt(square);
      }
      const usual = Math.max(LEAST, quantile(residual.subarray(1), 0.95));
      worst = Math.max(worst, residual[0] / usual);
    }
  }
  return worst;
}

/** Two frames before the first and two after the last added, from the other end of the cycle. */
function wrap(motion: Motion, cycle: FloorTransform): Motion {
  const last = motion.frames - 1;
  const out = pickFrames(motion, [last - 2, last - 1, ...Array.from({ length: last + 1 }, (_, f) => f), 1, 2]);
  moveFrames(out, invert(cycle), 0, 2);
  moveFrames(out, cycle, last + 3, last + 5);
  return out;
}
