import { dot, normalize, slerp } from '../math/quat';
import { farthest } from '../measure/farthest';
import { tick } from '../measure/tick';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';
import { cycleTransform, pickFrames } from '../model/repeat';

const ROUNDS = 9;
/** Rounds that draw in the seam's own frame only; after them its neighbours give way too. */
const ALONE = 4;
/** Frames kept on each side of the seam while it is settled. */
const SIDE = 4;

/**
 * Where noise, or a footfall, happens to strike the one frame at which a loop closes, it would be heard as a tick in every cycle:
 * that frame is drawn, by halves, towards where the two frames on each side predict it, until its tick is no more than the motion's own.
 *
 * @param motion a closed loop: its last frame is its first, one cycle on
 * @param mostM no joint is drawn further than this, metres
 */
export function settleSeam(motion: Motion, mostM = Infinity): Motion {
  const last = motion.frames - 1;
  if (last < 2 * SIDE + 2) return motion;
  const before = forwardKinematics(motion);
  const cycle = cycleTransform({ motion, travel: null });
  let result = motion;
  for (let round = 0; round < ROUNDS && tick({ motion: result, travel: null }) > 1; round++) {
    const near = aroundSeam(result, cycle);
    for (const at of round < ALONE ? [SIDE] : [SIDE - 1, SIDE + 1, SIDE]) drawIn(near, at);
    const drawn = copyMotion(result);
    for (const f of [0, 1]) put(drawn, f, near, SIDE + f);
    moveFrames(near, cycle);
    for (const f of [-1, 0]) put(drawn, last + f, near, SIDE + f);
    if (mostM < Infinity && farthest(forwardKinematics(drawn), before) > mostM) break;
    result = drawn;
  }
  return result;
}

/** Frames −4 … 4 of the cycle, those before the first from the end of it, one cycle back. */
function aroundSeam(motion: Motion, cycle: FloorTransform): Motion {
  const last = motion.frames - 1;
  const near = pickFrames(motion, [last - 4, last - 3, last - 2, last - 1, 0, 1, 2, 3, 4]);
  moveFrames(near, invert(cycle), 0, SIDE);
  return near;
}

/** In place: a frame half-way to the cubic through two frames on each side of it. */
function drawIn(motion: Motion, f: number): void {
  const joints = motion.skeleton.joints.length;
  const weights = [-1 / 6, 4 / 6, 4 / 6, -1 / 6];
  const neighbours = [f - 2, f - 1, f + 1, f + 2];
  const p = motion.rootPositions;
  for (let k = 0; k < 3; k++) {
    const predicted = neighbours.reduce((sum, g, i) => sum + weights[i] * p[g * 3 + k], 0);
    p[f * 3 + k] += (predicted - p[f * 3 + k]) / 2;
  }
  const q = [0, 0, 0, 1];
  for (let j = 0; j < joints; j++) {
    const at = (f * joints + j) * 4;
    q.fill(0);
    neighbours.forEach((g, i) => {
      const other = (g * joints + j) * 4;
      const weight = dot(motion.rotations, at, motion.rotations, other) < 0 ? -weights[i] : weights[i];
      for (let k = 0; k < 4; k++) q[k] += weight * motion.rotations[other + k];
    });
    normalize(q, 0);
    slerp(motion.rotations, at, motion.rotations, at, q, 0, 0.5);
  }
}

function put(target: Motion, f: number, source: Motion, g: number): void {
  const joints = target.skeleton.joints.length;
  target.rotations.set(source.rotations.subarray(g * joints * 4, (g + 1) * joints * 4), f * joints * 4);
  target.rootPositions.set(source.rootPositions.subarray(g * 3, g * 3 + 3), f * 3);
}
