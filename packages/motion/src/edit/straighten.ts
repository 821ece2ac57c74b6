import { fromHeading, multiply } from '../math/quat';
import { copyMotion, type Motion } from '../model/motion';
import { headings } from '../measure/heading';
import { bodyOf } from '../anatomy/body-of';
import { forwardKinematics } from '../model/kinematics';

/** Instants that were alike: the performer faced the same way, or stood on the same mark. */
export interface Anchors {
  readonly by: 'facing' | 'mark';
  /** Frames, in any order. */
  readonly frames: readonly number[];
}

/** A mark says nothing of the turn between two visits when the way between them is shorter than this, metres. */
const LEAST_WAY = 1;
/** Facing is the middle of so much about an anchor, seconds: a body sways. */
const ABOUT = 0.25;

/**
 * How far the suit's north has turned since the first anchor, radians, for every frame: between anchors it turns steadily, as suits do, and outside of
 * them at the rate of the nearest stretch.
 *
 * @param motion metres, Y up
 * @returns null where the anchors say nothing: fewer than two, or nobody's body
 */
export function driftOf(motion: Motion, { by, frames }: Anchors): Float64Array | null {
  const at = [...new Set(frames)].filter((f) => f >= 0 && f < motion.frames).sort((a, b) => a - b);
  if (at.length < 2) return null;
  const turns = by === 'facing' ? turnsByFacing(motion, at) : turnsByMark(motion, at);
  if (!turns) return null;
  const out = new Float64Array(motion.frames);
  for (let f = 0, i = 1; f < motion.frames; f++) {
    while (i < at.length - 1 && f > at[i]) i++;
    const rate = (turns[i] - turns[i - 1]) / (at[i] - at[i - 1]);
    out[f] = turns[i - 1] + rate * (f - at[i - 1]);
  }
  return out;
}

function turnsByFacing(motion: Motion, at: readonly number[]): number[] | null {
  const body = bodyOf(motion);
  if (!body) return null;
  const facing = headings(forwardKinematics(motion), body);
  const about = Math.round(ABOUT * motion.fps);
  const mean = (frame: number) => {
    const [from, to] = [Math.max(0, frame - about), Math.min(motion.frames - 1, frame + about)];
    let sum = 0;
    for (let f = from; f <= to; f++) sum += facing[f];
    return sum / (to - from + 1);
  };
  // Whole turns that were really made are no drift.
  return at.map((frame) => {
    const turn = mean(frame) - mean(at[0]);
    return turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
  });
}

/** The steady turns with which the way from each visit of the mark to the next comes back to it. */
function turnsByMark(motion: Motion, at: readonly number[]): number[] | null {
  const turns = [0];
  for (let i = 1; i < at.length; i++) {
    const turn = closingTurn(motion, at[i - 1], at[i]);
    if (turn === null) return null;
    turns.push(turns[i - 1] + turn);
  }
  return turns;
}

/** The turn by the end of a way that, growing steadily, brings its end nearest to its beginning. */
function closingTurn({ rootPositions: p }: Motion, from: number, to: number): number | null {
  let length = 0;
  for (let f = from + 1; f <= to; f++) length += Math.hypot(p[f * 3] - p[f * 3 - 3], p[f * 3 + 2] - p[f * 3 - 1]);
  if (length < LEAST_WAY) return null;
  let turn = 0;
  // A few rounds of Newton's: the turns are small.
  for (let n = 0; n < 6; n++) {
    let [ex, ez, gx, gz] = [0, 0, 0, 0];
    for (let f = from + 1; f <= to; f++) {
      const s = (f - from) / (to - from);
      const [dx, dz] = [p[f * 3] - p[f * 3 - 3], p[f * 3 + 2] - p[f * 3 - 1]];
      const [c, q] = [Math.cos(-turn * s), Math.sin(-turn * s)];
      const [rx, rz] = [c * dx + q * dz, c * dz - q * dx];
      ex += rx;
      ez += rz;
      // With a larger turn the step goes the other way round.
      gx += s * -rz;
      gz += s * rx;
    }
    const g = gx * gx + gz * gz;
    if (g < 1e-9) return null;
    turn -= (gx * ex + gz * ez) / g;
  }
  return turn;
}

/**
 * The motion with a drift of the heading taken out: each frame's progress and facing turned back.
 *
 * @param drift radians for every frame; where it is 0, nothing moves
 * @param still the frame whose place stays what it is
 */
export function straighten(motion: Motion, drift: ArrayLike<number>, still = 0): Motion {
  const out = copyMotion(motion);
  const { rootPositions: p } = motion;
  const stride = motion.skeleton.joints.length * 4;
  const step = (from: number, to: number) => {
    const turn = -drift[to];
    const [dx, dz] = [p[to * 3] - p[from * 3], p[to * 3 + 2] - p[from * 3 + 2]];
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    out.rootPositions[to * 3] = out.rootPositions[from * 3] + c * dx + s * dz;
    out.rootPositions[to * 3 + 2] = out.rootPositions[from * 3 + 2] + c * dz - s * dx;
  };
  for (let f = still + 1; f < motion.frames; f++) step(f - 1, f);
  for (let f = still - 1; f >= 0; f--) step(f + 1, f);
  for (let f = 0; f < motion.frames; f++) multiply(out.rotations, f * stride, fromHeading(-drift[f]), 0, motion.rotations, f * stride);
  return out;
}
