import { angleBetween } from '../math/quat';
import { farthest, farthestPlace } from '../measure/farthest';
import { hingeKinks, worstKink } from '../measure/kink';
import { bodyOf } from '../anatomy/body-of';
import type { Clip } from '../model/clip';
import { moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { copyMotion, cutMotion, type Motion } from '../model/motion';
import { blendBeyond } from './blend-beyond';
import { spreadDifference } from './spread';

/** How much of a difference of velocity is taken up, as long as it moves nothing further than the gap. */
const BENDS = [1, 0.6, 0.3, 0.1, 0];

/** How a cycle is brought round: see the step `loop`. */
export type Close = 'blend' | 'around' | 'spread';

/** A cycle brought round, and what that took. */
export interface ClosedCycle {
  readonly motion: Motion;
  /** The way that was taken: `none` where the cycle came round by itself, `around` where a blend was asked for and was worse. */
  readonly way: Close | 'none';
  /** The largest distance of a joint from where it would have to be for the cycle to come round, metres. */
  readonly gapM: number;
}

/** A cycle whose end is as near to its beginning as this comes round by itself, metres. */
const CLOSED = 1e-4;
/** How far off a joint a point is held, metres. */
const OFF = 0.1;
/** A blend may move a joint so many times the gap, and so far on top of that, metres. */
const MOST_BLEND = 1.6;
const SLACK = 0.004;
/** It may kink a knee or an elbow so many times what the cut does, where any way kinks it less: the settled seam and held feet kink it a little more. */
const MOST_KINK = 1.1;
/** Where a blend of the asked length kinks more, one of this share of it is tried. */
const SHORTER = 0.6;

/**
 * Brings a cut round to its beginning. Nothing is moved by more than the gap between its ends asks for: a cut that is closed already stays as it is,
 * and a landing at the seam stays a landing. What the take has beyond the cut is blended with only where it goes the way that the cycle goes.
 *
 * @param cycle the turn and shift from the first frame to the last
 * @param seconds length of the blend, or of the decay to each side
 */
export function closeCycle(clip: Clip, cycle: FloorTransform, close: Close, seconds: number): ClosedCycle {
  const { motion } = clip;
  const cut = forwardKinematics(motion);
  const gapM = gapOf(motion, cut, cycle);
  if (gapM < CLOSED) return { motion: copyMotion(motion), way: 'none', gapM };
  const spread = (way: 'around' | 'spread'): ClosedCycle => {
    const reach = way === 'spread' ? null : seconds;
    const tries = BENDS.map((share) => () => spreadDifference(motion, cycle, reach, share));
    let closed = tries[0]();
    for (const next of tries.slice(1)) {
      if (farthest(forwardKinematics(closed), cut) <= gapM) break;
      closed = next();
    }
    return { motion: closed, way, gapM };
  };
  if (close !== 'blend') return spread(close);
  const body = bodyOf(motion);
  const usual = body && hingeKinks(cut, body, motion.fps);
  const kinkOf = (globals: Globals) => (body && usual && worstKink(hingeKinks(globals, body, motion.fps), usual)?.ratio) ?? 0;
  const ways: { readonly closed: ClosedCycle; readonly change: number; readonly kink: number }[] = [];
  const note = (closed: ClosedCycle, globals: Globals) => ways.push({ closed, change: changeOf(globals, cut), kink: kinkOf(globals) });
  for (const share of [1, SHORTER]) {
    for (const blended of blendBeyond(clip, cycle, share * seconds)) {
      const globals = forwardKinematics(blended);
      if (farthest(globals, cut) <= MOST_BLEND * gapM + SLACK) note({ motion: blended, way: 'blend', gapM }, globals);
    }
    const calm = ways.filter(({ kink }) => kink <= MOST_KINK);
    if (calm.length > 0) return calm.reduce((a, b) => (b.change < a.change ? b : a)).closed;
  }
  const around = spread('around');
  note(around, forwardKinematics(around.motion));
  return ways.reduce((a, b) => (b.kink < a.kink ? b : a)).closed;
}

/** How much a motion is changed, all joints and frames together. */
const changeOf = (a: Globals, b: Globals): number => a.positions.reduce((sum, v, i) => sum + (v - b.positions[i]) ** 2, 0);

/** The largest distance of a joint, or of a point 10 cm off it so that twist counts, in the last frame from where it is in the first, one cycle on. */
function gapOf(motion: Motion, cut: Globals, cycle: FloorTransform): number {
  const first = cutMotion(motion, 0, 0);
  moveFrames(first, cycle);
  const wanted = forwardKinematics(first);
  const last = (motion.frames - 1) * cut.joints;
  let twist = 0;
  for (let j = 0; j < cut.joints; j++) twist = Math.max(twist, angleBetween(wanted.rotations, j * 4, cut.rotations, (last + j) * 4));
  return Math.max(farthestPlace(wanted.positions, cut.positions.subarray(last * 3)), OFF * twist);
}
