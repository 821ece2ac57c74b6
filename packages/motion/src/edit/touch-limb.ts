import { RADIANS } from '../math/angles';
import { fromAxisAngle, IDENTITY, multiply, multiplyInverse, slerp, type Vec3 } from '../math/quat';
import { minus, mixed, norm, plus, shortestTurn, times, turned, unit, vecAt } from '../math/vec';
import { kneeAxis, reachWithLeg } from '../anatomy/leg-ik';
import type { Body, Leg, Side } from '../model/body';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { FixedPoint } from '../model/fixed-point';
import { cutMotion, type Motion } from '../model/motion';
import { bodyOf } from '../anatomy/body-of';
import { groundwork } from '../measure/groundwork';
import type { Skeleton } from '../model/skeleton';
import type { Touch, TouchLimb } from './layers';

/** A limb that touches: its three joints as a leg's, the point of it that touches, and the joints that give way for it. */
export interface TouchingLimb {
  readonly joints: Leg;
  readonly point: FixedPoint;
  /** Of a hand: from the joint over the hips to the chest. */
  readonly trunk: readonly number[];
  readonly side: Side;
  readonly isFoot: boolean;
}

/**
 * @param balls points at the balls of both feet, where a foot touches
 * @returns null when the skeleton lacks the limb
 */
export function touchingLimb(
  skeleton: Skeleton,
  body: Body,
  limb: TouchLimb,
  balls: Readonly<Record<Side, FixedPoint>> | null,
): TouchingLimb | null {
  const side: Side = limb.startsWith('left') ? 'left' : 'right';
  if (limb.endsWith('foot')) {
    const joints = body.legs[side];
    return { joints, point: balls?.[side] ?? { joint: joints.ankle, local: [0, 0, 0] }, trunk: [], side, isFoot: true };
  }
  const { shoulder, elbow, wrist } = body.arms[side];
  if (shoulder < 0 || elbow < 0 || wrist < 0) return null;
  const joints: Leg = { hip: shoulder, knee: elbow, ankle: wrist, toe: -1 };
  return { joints, point: { joint: wrist, local: middleOfHand(skeleton, wrist) }, trunk: trunkOf(skeleton, body), side, isFoot: false };
}

/** In the wrist's axes: the mean of where its fingers begin, or half-way to its tip. */
function middleOfHand({ joints }: Skeleton, wrist: number): Vec3 {
  const fingers = joints.filter(({ parent }) => parent === wrist).map(({ offset }) => offset);
  const ends = fingers.length > 0 ? fingers : joints[wrist].endSites.map(([x, y, z]): Vec3 => [x / 2, y / 2, z / 2]);
  if (ends.length === 0) return [0, 0, 0];
  const mean = (k: 0 | 1 | 2) => ends.reduce((sum, end) => sum + end[k] / ends.length, 0);
  return [mean(0), mean(1), mean(2)];
}

function trunkOf({ joints }: Skeleton, { hips, chest }: Body): number[] {
  const out: number[] = [];
  for (let j = chest; j >= 0 && j !== hips; j = joints[j].parent) out.unshift(j);
  return out;
}

/** Where a point fixed to a joint is in a frame. */
export const pointAt = ({ positions, rotations, joints }: Globals, { joint, local }: FixedPoint, f: number): Vec3 =>
  plus(vecAt(positions, f * joints + joint), turned(rotations, (f * joints + joint) * 4, local));

/**
 * Where the middle of a hand, or the ball of a foot, is in a frame, metres; null when the skeleton lacks it.
 *
 * @param motion in the world
 *
 * @example
 * limbPlace(motion, 'left hand', 12).length; // 3
 */
export function limbPlace(motion: Motion, limb: TouchLimb, frame: number): Vec3 | null {
  const body = bodyOf(motion);
  const points = limb.endsWith('foot') ? groundwork(motion)?.soles.points : null;
  const found = body && touchingLimb(motion.skeleton, body, limb, points ? { left: points.left.ball, right: points.right.ball } : null);
  return found ? pointAt(forwardKinematics(cutMotion(motion, frame, frame)), found.point, 0) : null;
}

/**
 * In place: brings a limb's point to its goals, each by a weight; the body gives way by its share, the elbow or knee is swung out as it is asked, and
 * hand or foot keep their rotation in the world.
 *
 * @param goals three numbers a frame, metres
 * @param weights 0 to 1, one a frame
 */
export function touchLimb(
  motion: Motion,
  body: Body,
  limb: TouchingLimb,
  goals: ArrayLike<number>,
  weights: ArrayLike<number>,
  { give, swivel }: Pick<Touch, 'give' | 'swivel'>,
): void {
  const before = forwardKinematics(motion);
  // Where wrist or ankle have to be: hand and foot are turned in the world as they were captured, whatever the body does.
  const end = (f: number): Vec3 => {
    const point = pointAt(before, limb.point, f);
    const arm = minus(point, vecAt(before.positions, f * before.joints + limb.joints.ankle));
    return minus(mixed(point, vecAt(goals, f), weights[f]), arm);
  };
  if (give > 0 && limb.isFoot) shiftHips(motion, before, limb, end, give);
  if (give > 0 && limb.trunk.length > 0) bendTrunk(motion, before, limb, end, give);
  const globals = give > 0 ? forwardKinematics(motion) : before;
  if (give > 0 && limb.isFoot) keepOtherFoot(motion, globals, before, body, limb);
  const bend = kneeAxis(globals, limb.joints);
  for (let f = 0; f < motion.frames; f++) {
    if (weights[f] === 0) continue;
    keepTurn(motion, globals, before, limb.joints.ankle, f, give > 0);
    reachWithLeg(motion, globals, f, limb.joints, end(f), bend);
  }
  if (swivel !== 0) swing(motion, limb, weights, swivel);
}

/** In place: as if the joint had been turned in the world as it was before the body gave way. */
function keepTurn({ skeleton, rotations }: Motion, now: Globals, before: Globals, joint: number, f: number, hasMoved: boolean): void {
  if (!hasMoved) return;
  const at = (f * now.joints + joint) * 4;
  for (let k = 0; k < 4; k++) now.rotations[at + k] = before.rotations[at + k];
  multiplyInverse(rotations, at, now.rotations, (f * now.joints + skeleton.joints[joint].parent) * 4, before.rotations, at);
}

/** An arm or leg reaches this share of its length by itself. */
const EASY_REACH = 0.9;
/** The body begins to give way softly over so much, metres. */
const SOFT = 0.04;

/** By how much the limb's first joint would have to come nearer for the limb to reach, towards its end's goal, metres. */
function lackOf({ positions, joints }: Globals, { hip, knee, ankle }: Leg, end: Vec3, f: number): Vec3 {
  const [a, b, c] = [hip, knee, ankle].map((j) => vecAt(positions, f * joints + j));
  const length = norm(minus(b, a)) + norm(minus(c, b));
  const to = minus(end, a);
  const lack = Math.max(0, norm(to) - EASY_REACH * length);
  return times(unit(to), (lack * lack) / (lack + SOFT));
}

/** In place: the joints of the trunk one after the other lean so that the shoulder comes nearer by a share of what the arm lacks. */
function bendTrunk(motion: Motion, before: Globals, { joints: arm, trunk }: TouchingLimb, end: (f: number) => Vec3, give: number): void {
  const { joints } = motion.skeleton;
  const [turn, sum, world] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  for (let f = 0; f < motion.frames; f++) {
    const base = f * before.joints;
    let shoulder = vecAt(before.positions, base + arm.hip);
    const lack = lackOf(before, arm, end(f), f);
    if (norm(lack) < 1e-9) continue;
    const goal = plus(shoulder, times(lack, give));
    for (let k = 0; k < 4; k++) sum[k] = IDENTITY[k];
    let up: ArrayLike<number> = before.rotations.slice((base + joints[trunk[0]].parent) * 4, (base + joints[trunk[0]].parent) * 4 + 4);
    let shift: Vec3 = [0, 0, 0];
    trunk.forEach((joint, i) => {
      const old = vecAt(before.positions, base + joint);
      const pivot = plus(turned(sum, 0, old), shift);
      slerp(turn, 0, IDENTITY, 0, shortestTurn(unit(minus(shoulder, pivot)), unit(minus(goal, pivot))), 0, 1 / (trunk.length - i));
      shoulder = plus(pivot, turned(turn, 0, minus(shoulder, pivot)));
      multiply(sum, 0, turn, 0, sum, 0);
      // All that hangs from the joint goes round it.
      shift = minus(pivot, turned(sum, 0, old));
      multiply(world, 0, sum, 0, before.rotations, (base + joint) * 4);
      multiplyInverse(motion.rotations, (base + joint) * 4, up, 0, world, 0);
      up = [...world];
    });
  }
}

function shiftHips(motion: Motion, before: Globals, { joints: leg }: TouchingLimb, end: (f: number) => Vec3, give: number): void {
  for (let f = 0; f < motion.frames; f++) {
    const by = lackOf(before, leg, end(f), f);
    for (let k = 0; k < 3; k++) motion.rootPositions[f * 3 + k] += give * by[k];
  }
}

function keepOtherFoot(motion: Motion, globals: Globals, before: Globals, body: Body, { side }: TouchingLimb): void {
  const leg = body.legs[side === 'left' ? 'right' : 'left'];
  const bend = kneeAxis(globals, leg);
  for (let f = 0; f < motion.frames; f++)
    reachWithLeg(motion, globals, f, leg, vecAt(before.positions, f * before.joints + leg.ankle), bend);
}

/** In place: the middle joint of the limb swung about the line between its ends; positive is to the outside. */
function swing(motion: Motion, { joints: { hip, ankle }, side, isFoot }: TouchingLimb, weights: ArrayLike<number>, degrees: number): void {
  const globals = forwardKinematics(motion);
  const { joints } = motion.skeleton;
  const [upper, lower] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  for (let f = 0; f < motion.frames; f++) {
    if (weights[f] === 0) continue;
    const base = f * globals.joints;
    const line = minus(vecAt(globals.positions, base + ankle), vecAt(globals.positions, base + hip));
    // Elbows point to the back, knees to the front.
    const sign = (side === 'left') === isFoot ? -1 : 1;
    const turn = fromAxisAngle(unit(line), sign * weights[f] * degrees * RADIANS);
    const at = (j: number) => (base + j) * 4;
    multiply(upper, 0, turn, 0, globals.rotations, at(hip));
    multiplyInverse(motion.rotations, at(hip), globals.rotations, at(joints[hip].parent), upper, 0);
    // From the middle joint on all turn alike; the end keeps its rotation in the world.
    multiply(lower, 0, turn, 0, globals.rotations, at(joints[ankle].parent));
    multiplyInverse(motion.rotations, at(ankle), lower, 0, globals.rotations, at(ankle));
  }
}
