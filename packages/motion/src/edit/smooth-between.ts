import { kneeAxis, reachWithLeg } from '../anatomy/leg-ik';
import { cubic } from '../math/monotone';
import { makeContinuous, multiplyInverse, normalize, slerp } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { mixed, vecAt } from '../math/vec';
import type { Body, Side } from '../model/body';
import type { Contacts, Interval } from '../model/contacts';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { hipsDrop, loweredBy } from './reach-feet';

/** Which frames are replaced, and what stays in them. */
export interface Way {
  /** First and last frame, which stay as they are. */
  readonly from: number;
  readonly to: number;
  /** Frames between them that stay as they are too, rising. */
  readonly keys: readonly number[];
}

/** Frames in which a foot goes over to where it bears, before and after a contact. */
const EDGE = 5;
/** Velocities at the ends are taken from so many frames beside them. */
const BESIDE = 3;

/**
 * In place: joints from one frame to another replaced by the smooth way between the two poses, through the poses of frames in the middle that are kept;
 * velocities at both ends are those of the motion outside.
 *
 * @param joints whose rotations are replaced
 * @param withPlace whether the first joint's place is, too
 */
export function smoothBetween(motion: Motion, joints: readonly number[], withPlace: boolean, way: Way): void {
  const J = motion.skeleton.joints.length;
  for (const joint of joints) {
    replace(motion.rotations, joint * 4, J * 4, 4, motion.frames, way);
    makeContinuous(motion.rotations, joint * 4, motion.frames, J * 4);
  }
  if (withPlace) replace(motion.rootPositions, 0, 3, 3, motion.frames, way);
}

function replace(values: Float32Array, at: number, stride: number, size: 3 | 4, frames: number, { from, to, keys }: Way): void {
  const stops = [from, ...keys.filter((key) => key > from && key < to), to];
  const poses = Float64Array.from(stops.flatMap((f) => Array.from({ length: size }, (_, k) => values[f * stride + at + k])));
  // The short way round from stop to stop, and beside the ends.
  if (size === 4) makeContinuous(poses, 0, stops.length, 4);
  const sign = (f: number, i: number) =>
    size === 4 && [0, 1, 2, 3].reduce((sum, k) => sum + values[f * stride + at + k] * poses[i * 4 + k], 0) < 0 ? -1 : 1;
  const beside = (f: number, i: number, by: 1 | -1, k: number): number => {
    const other = Math.min(frames - 1, Math.max(0, f + by * BESIDE));
    if (other === f) return 0;
    return (sign(other, i) * values[other * stride + at + k] - sign(f, i) * values[f * stride + at + k]) / (other - f);
  };
  const last = stops.length - 1;
  const slopes = Array.from({ length: stops.length * size }, (_, n) => {
    const [i, k] = [Math.floor(n / size), n % size];
    if (i === 0) return beside(from, 0, -1, k);
    if (i === last) return beside(to, last, 1, k);
    return (poses[(i + 1) * size + k] - poses[(i - 1) * size + k]) / (stops[i + 1] - stops[i - 1]);
  });
  for (let i = 0; i < last; i++) {
    const [a, b] = [stops[i], stops[i + 1]];
    for (let f = a + 1; f < b; f++) {
      const o = f * stride + at;
      for (let k = 0; k < size; k++)
        values[o + k] = cubic(
          (f - a) / (b - a),
          b - a,
          poses[i * size + k],
          slopes[i * size + k],
          poses[(i + 1) * size + k],
          slopes[(i + 1) * size + k],
        );
      if (size === 4) normalize(values, o);
    }
  }
}

/**
 * In place: feet that bear in some frames are where they were, and turned as they were; between contacts they go over to the motion's own way.
 *
 * @param before the motion as it was
 * @param lowerHips whether the hips come down, smoothly, where a leg would not reach
 */
export function keepContacts(
  motion: Motion,
  before: Globals,
  body: Body,
  contacts: Contacts,
  [from, to]: readonly [number, number],
  lowerHips: boolean,
): void {
  const { joints } = motion.skeleton;
  const J = joints.length;
  const now = forwardKinematics(motion);
  const bears = (side: Side, f: number) => (f > from && f < to ? bearing(contacts[side], f) : 0);
  const targetsOf = (side: Side): Float64Array => {
    const { ankle } = body.legs[side];
    const out = new Float64Array(motion.frames * 3);
    for (let f = 0; f < motion.frames; f++)
      out.set(mixed(vecAt(now.positions, f * J + ankle), vecAt(before.positions, f * J + ankle), bears(side, f)), f * 3);
    return out;
  };
  const targets = { left: targetsOf('left'), right: targetsOf('right') };
  const drop = lowerHips ? hipsDrop(now, body, targets, motion.fps) : new Float64Array(motion.frames);
  // What stays at both ends stays as it is.
  for (let f = 0; f < motion.frames; f++) {
    drop[f] *= smoothStep5(Math.max(0, Math.min(1, (f - from) / EDGE, (to - f) / EDGE)));
    motion.rootPositions[f * 3 + 1] -= drop[f];
  }
  for (const side of ['left', 'right'] as const) {
    const leg = body.legs[side];
    const lowered = loweredBy(now, drop);
    const bend = kneeAxis(lowered, leg);
    const turn = [0, 0, 0, 1];
    for (let f = from + 1; f < to; f++) {
      const w = bears(side, f);
      if (w === 0 && drop[f] === 0) continue;
      const at = f * J + leg.ankle;
      slerp(turn, 0, now.rotations, at * 4, before.rotations, at * 4, w);
      lowered.rotations.set(turn, at * 4);
      multiplyInverse(motion.rotations, at * 4, lowered.rotations, (f * J + joints[leg.ankle].parent) * 4, turn, 0);
      reachWithLeg(motion, lowered, f, leg, targets[side].subarray(f * 3, f * 3 + 3), bend);
    }
  }
}

/** How much a foot bears at a frame: 1 in a contact, fading beside it. */
function bearing(contacts: readonly Interval[], f: number): number {
  let most = 0;
  for (const { from, to } of contacts) {
    const outside = f < from ? from - f : f >= to ? f - to + 1 : 0;
    most = Math.max(most, smoothStep5(1 - outside / EDGE));
  }
  return most;
}
