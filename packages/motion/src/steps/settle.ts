import { dot, normalize, slerp } from '../math/quat';
import { tick } from '../measure/tick';
import { moveFrames } from '../model/floor-transform';
import { copyMotion, cutMotion, type Motion } from '../model/motion';
import { repeatFirst } from './repeat-first';

const ROUNDS = 5;

/**
 * Where noise happens to strike the one frame at which a loop closes, it would be heard as a tick in every cycle: that frame is
 * drawn, by halves, towards where the two frames on each side predict it, until its tick is no more than the motion's own.
 *
 * @param turn what the cycle turns by, radians
 */
export function settleSeam(motion: Motion, turn: number): Motion {
  const last = motion.frames - 1;
  if (last < 8) return motion;
  let result = motion;
  for (let round = 0; round < ROUNDS && tick({ motion: result, travel: null }) > 1; round++) {
    result = copyMotion(result);
    drawIn(result, last, turn);
    repeatFirst(result, last, turn);
  }
  return result;
}

function drawIn(motion: Motion, last: number, turn: number): void {
  const joints = motion.skeleton.joints.length;
  const p = motion.rootPositions;
  // The frames before the last, one cycle back: what comes before frame 0.
  const before = cutMotion(motion, last - 2, last);
  moveFrames(before, { turn: -turn, x: 0, z: 0 });
  const shift = [p[0] - before.rootPositions[6], 0, p[2] - before.rootPositions[8]];
  const predict = (m2: number, m1: number, p1: number, p2: number) => (4 * (m1 + p1) - m2 - p2) / 6;
  const [dx, dy, dz] = [0, 1, 2].map((k) => {
    const m2 = before.rootPositions[k] + shift[k];
    const m1 = before.rootPositions[3 + k] + shift[k];
    return (predict(m2, m1, p[3 + k], p[6 + k]) - p[k]) / 2;
  });
  p[0] += dx;
  p[1] += dy;
  p[2] += dz;
  // The same step as seen at the other end of the cycle.
  p[last * 3] += Math.cos(turn) * dx + Math.sin(turn) * dz;
  p[last * 3 + 2] += Math.cos(turn) * dz - Math.sin(turn) * dx;
  const q = [0, 0, 0, 1];
  for (let j = 0; j < joints; j++) {
    const first = j * 4;
    const sources: [ArrayLike<number>, number, number][] = [
      [before.rotations, j * 4, -1 / 6],
      [before.rotations, (joints + j) * 4, 4 / 6],
      [motion.rotations, (joints + j) * 4, 4 / 6],
      [motion.rotations, (2 * joints + j) * 4, -1 / 6],
    ];
    q.fill(0);
    for (const [values, at, weight] of sources) {
      const sign = dot(motion.rotations, first, values, at) < 0 ? -weight : weight;
      for (let k = 0; k < 4; k++) q[k] += sign * values[at + k];
    }
    normalize(q, 0);
    slerp(motion.rotations, first, motion.rotations, first, q, 0, 0.5);
  }
}
