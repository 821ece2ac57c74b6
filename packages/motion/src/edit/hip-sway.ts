import { movingAverage } from '../math/filter';
import { exp, fromHeading, log, makeContinuous, multiply, multiplyInverse, normalize, type Vec3 } from '../math/quat';
import { vecAt } from '../math/vec';
import { kneeAxis, reachWithLeg } from '../anatomy/leg-ik';
import type { Groundwork } from '../measure/groundwork';
import { strideFrames } from '../measure/strides';
import { wayOf } from '../measure/way';
import type { Leg } from '../model/body';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';
import { reachFeet } from './reach-feet';
import { series } from '../math/series';

/** How much of each movement of the hips about their way is left: 1 all of it, 0 nothing, 2 twice. */
export interface HipFactors {
  readonly sway: number;
  readonly bounce: number;
  readonly surge: number;
  readonly list: number;
  readonly twist: number;
  readonly tilt: number;
}

/** What stays where it is while the hips move otherwise; feet always do. */
export interface HipHolds {
  readonly chest: boolean;
  readonly head: boolean;
  readonly hands: boolean;
}

/** The hips' own movement: their way over the floor, their middle height, and how they stand on the mean, per frame. */
interface HipWay {
  readonly x: ArrayLike<number>;
  readonly z: ArrayLike<number>;
  readonly heading: ArrayLike<number>;
  readonly height: Float64Array;
  /** Mean rotation of the hips about the heading, quaternions. */
  readonly stance: Float64Array;
}

/**
 * Makes the hips sway, bounce, surge, list, twist and tilt more or less about their way; the feet stay where they are, to the rotation.
 *
 * @param found of a motion in the world
 */
export function swayHips({ motion, globals, body, contacts }: Groundwork, factors: HipFactors, holds: HipHolds): Motion {
  const out = copyMotion(motion);
  const { joints } = motion.skeleton;
  const J = joints.length;
  const way = hipWay(motion, globals.rotations, J, body.hips, contacts);
  const [turn, vector, hips] = [
    [0, 0, 0, 1],
    [0, 0, 0],
    [0, 0, 0, 1],
  ];
  const kept = keptJoints(motion, body, holds);
  for (let f = 0; f < motion.frames; f++) {
    const h = way.heading[f];
    const [c, s] = [Math.cos(h), Math.sin(h)];
    const at = f * 3;
    const [dx, dz] = [motion.rootPositions[at] - way.x[f], motion.rootPositions[at + 2] - way.z[f]];
    const left = factors.sway * (dx * c - dz * s);
    const front = factors.surge * (dx * s + dz * c);
    out.rootPositions[at] = way.x[f] + left * c + front * s;
    out.rootPositions[at + 1] = way.height[f] + factors.bounce * (motion.rootPositions[at + 1] - way.height[f]);
    out.rootPositions[at + 2] = way.z[f] - left * s + front * c;
    // What the hips are turned to from how they stand on the mean, in the axes of their way: X left, Y up, Z to the front.
    const base = (f * J + body.hips) * 4;
    multiplyInverse(turn, 0, fromHeading(h), 0, globals.rotations, base);
    const [x, y, z, w] = way.stance.subarray(f * 4, f * 4 + 4);
    multiply(turn, 0, turn, 0, [-x, -y, -z, w], 0);
    log(vector, 0, turn, 0);
    vector[0] *= factors.tilt;
    vector[1] *= factors.twist;
    vector[2] *= factors.list;
    exp(turn, 0, vector, 0);
    multiply(hips, 0, fromHeading(h), 0, turn, 0);
    multiply(hips, 0, hips, 0, way.stance, f * 4);
    const up = joints[body.hips].parent;
    if (up < 0) for (let k = 0; k < 4; k++) out.rotations[base + k] = hips[k];
    else multiplyInverse(out.rotations, base, globals.rotations, (f * J + up) * 4, hips, 0);
    // What hangs from the hips and is to stay turned as it was.
    for (const joint of kept) multiplyInverse(out.rotations, (f * J + joint) * 4, hips, 0, globals.rotations, (f * J + joint) * 4);
  }
  if (holds.head && !holds.chest) keepTurn(out, globals.rotations, body.head);
  const ankles = (side: 'left' | 'right') => placesOf(globals, body.legs[side].ankle);
  reachFeet(out, forwardKinematics(out), body, { left: ankles('left'), right: ankles('right') }, true);
  if (holds.hands) keepHands(out, { motion, globals, body });
  return out;
}

function hipWay(motion: Motion, rotations: ArrayLike<number>, joints: number, hips: number, contacts: Groundwork['contacts']): HipWay {
  const { frames, fps } = motion;
  const { x, z, heading } = wayOf(motion, false, { of: 'hips', smooth: 'stride' });
  const width = strideFrames(contacts) ?? Math.min(frames, fps);
  const height = movingAverage(
    series(frames, (f) => motion.rootPositions[f * 3 + 1]),
    width,
  );
  const turned = new Float64Array(frames * 4);
  for (let f = 0; f < frames; f++) multiplyInverse(turned, f * 4, fromHeading(heading[f]), 0, rotations, (f * joints + hips) * 4);
  makeContinuous(turned, 0, frames, 4);
  const parts = [0, 1, 2, 3].map((k) =>
    movingAverage(
      series(frames, (f) => turned[f * 4 + k]),
      width,
    ),
  );
  const stance = new Float64Array(frames * 4);
  for (let f = 0; f < frames; f++) {
    for (let k = 0; k < 4; k++) stance[f * 4 + k] = parts[k][f];
    normalize(stance, f * 4);
  }
  return { x, z, heading, height, stance };
}

/** Joints right below the hips that stay turned as they were: both legs, and the trunk where the chest is held. */
function keptJoints({ skeleton }: Motion, body: Groundwork['body'], { chest }: HipHolds): number[] {
  const legs = [topOf(skeleton.joints, body.legs.left.hip, body.hips), topOf(skeleton.joints, body.legs.right.hip, body.hips)];
  return skeleton.joints.flatMap(({ parent }, j) => (parent === body.hips && (chest || legs.includes(j)) ? [j] : []));
}

/** The joint below another that the chain to a joint begins with. */
function topOf(joints: Motion['skeleton']['joints'], joint: number, above: number): number {
  let at = joint;
  while (at >= 0 && joints[at].parent !== above) at = joints[at].parent;
  return at;
}

function placesOf({ positions, joints, frames }: Groundwork['globals'], joint: number): Float64Array {
  const out = new Float64Array(frames * 3);
  for (let f = 0; f < frames; f++) for (let k = 0; k < 3; k++) out[f * 3 + k] = positions[(f * joints + joint) * 3 + k];
  return out;
}

/** In place: a joint keeps its rotation in the world. */
function keepTurn(motion: Motion, world: ArrayLike<number>, joint: number): void {
  const globals = forwardKinematics(motion);
  const { joints } = motion.skeleton;
  const up = joints[joint]?.parent ?? -1;
  if (up < 0) return;
  for (let f = 0; f < motion.frames; f++)
    multiplyInverse(
      motion.rotations,
      (f * joints.length + joint) * 4,
      globals.rotations,
      (f * joints.length + up) * 4,
      world,
      (f * joints.length + joint) * 4,
    );
}

/** In place: hands go back to where they were, as far as the arms reach. */
function keepHands(motion: Motion, { globals, body }: Pick<Groundwork, 'motion' | 'globals' | 'body'>): void {
  for (const side of ['left', 'right'] as const) {
    const { shoulder, elbow, wrist } = body.arms[side];
    if (shoulder < 0 || elbow < 0 || wrist < 0) continue;
    const arm: Leg = { hip: shoulder, knee: elbow, ankle: wrist, toe: -1 };
    const now = forwardKinematics(motion);
    const bend = kneeAxis(globals, arm);
    for (let f = 0; f < motion.frames; f++) {
      const place: Vec3 = vecAt(globals.positions, f * globals.joints + wrist);
      reachWithLeg(motion, now, f, arm, place, bend);
    }
  }
}

/**
 * How far the hips go from side to side, centimetres, between the twentieths.
 *
 * @param found of a motion in the world: the way that is meant is its hips'
 * @param motion whose hips; frame by frame what `found` is of, or what was made of it
 * @param shown the frames that count: at the ends of a motion its way is less well known; the first and the first after
 */
export function hipSwayCm(
  { motion: about, globals, body, contacts }: Groundwork,
  motion: Motion,
  [from, to]: readonly [number, number],
): number {
  const way = hipWay(about, globals.rotations, about.skeleton.joints.length, body.hips, contacts);
  const left = series(to - from, (i) => {
    const f = from + i;
    const [dx, dz] = [motion.rootPositions[f * 3] - way.x[f], motion.rootPositions[f * 3 + 2] - way.z[f]];
    return dx * Math.cos(way.heading[f]) - dz * Math.sin(way.heading[f]);
  }).sort();
  return 100 * (left[Math.floor(0.95 * (left.length - 1))] - left[Math.floor(0.05 * (left.length - 1))]);
}
