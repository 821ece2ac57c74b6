import { DEGREES, RADIANS } from '../math/angles';
import { fromAxisAngle, fromBasis, multiply, type Quat, type Vec3 } from '../math/quat';
import { across, cross, inner, minus, norm, plus, shortestTurn, times, turned, unit, vecAt } from '../math/vec';
import type { Side } from '../model/body';
import type { Skeleton } from '../model/skeleton';
import { FINGERS, firstOf, PARTS, type Part, type Parts } from '../anatomy/parts';
import { copyPose, turnBelow, type WorldPose } from '../character/world-pose';

/** How limbs are straightened: arms out to the sides, or half down. */
export type Straight = 'T' | 'A';

/** Knees and elbows keep a bend, so that it is plain which way they go, radians. */
export const KEPT_BEND = 4 * RADIANS;
/** A limb that is bent more than this shows its own plane, a sine. */
const SHOWS_PLANE = Math.sin(3 * RADIANS);
const LEFT: Vec3 = [1, 0, 0];
const FRONT: Vec3 = [0, 0, 1];

type Chain = Parts['parts'];

/**
 * The pose with its limbs straightened: the body upright and facing +Z, legs down, arms out to the sides or half down, knees and elbows bent a
 * little in the plane in which they bend, feet flat and to the front, hands on from the forearms with the thumbs to the front. Trunk, neck and
 * head keep the carriage they were built with. Two skeletons so straightened stand alike, whatever their axes.
 *
 * @param base a pose in which the skeleton stands, at rest or captured
 */
export function straightened(skeleton: Skeleton, parts: Chain, base: WorldPose, kind: Straight): WorldPose {
  const pose = copyPose(base);
  const at = (joint: number) => vecAt(pose.positions, joint);
  const turn = (joint: number, by: Quat) => turnBelow(skeleton, pose, joint, by);
  standUp(parts, pose, turn);
  const feet = copyPose(pose).rotations;
  for (const [side, sign] of [
    ['left', 1],
    ['right', -1],
  ] as const) {
    const leg = [firstOf(parts, `${side}Thigh`), firstOf(parts, `${side}Shin`), firstOf(parts, `${side}Foot`)];
    if (leg.every((j) => j >= 0)) {
      const forwards = unit(plus([0, -Math.cos(KEPT_BEND / 2), 0], times(FRONT, Math.sin(KEPT_BEND / 2))));
      layLimb(leg, at, turn, forwards, LEFT, unit(across(LEFT, unit(minus(at(leg[1]), at(leg[0]))))));
      layFoot(leg[2], firstOf(parts, `${side}Toes`), skeleton, feet, pose, turn);
    }
    const arm = [firstOf(parts, `${side}UpperArm`), firstOf(parts, `${side}Forearm`), firstOf(parts, `${side}Hand`)];
    if (arm[0] < 0 || arm[1] < 0) continue;
    const drop = kind === 'T' ? 0 : Math.PI / 4;
    const along: Vec3 = [sign * Math.cos(drop), -Math.sin(drop), 0];
    const hinge = cross(along, FRONT);
    if (arm[2] < 0) {
      turn(arm[0], shortestTurn(unit(minus(at(arm[1]), at(arm[0]))), along));
      continue;
    }
    layLimb(arm, at, turn, along, hinge, unit(cross(unit(minus(at(arm[1]), at(arm[0]))), FRONT)));
    layHand(side, parts, skeleton, pose, turn, unit(minus(at(arm[2]), at(arm[1]))));
  }
  return pose;
}

type Turn = (joint: number, by: Quat) => void;

/** Turns the whole so that the line of the hip sockets lies along X and the trunk goes up. */
function standUp(parts: Chain, pose: WorldPose, turn: Turn): void {
  const frame = trunkFrame(parts, pose);
  if (frame) turn(0, inverse(frame));
}

/** The axes of the trunk, X to the left and Y up it; null without two thighs. */
export function trunkFrame(parts: Chain, { positions }: WorldPose): Quat | null {
  const [l, r] = [firstOf(parts, 'leftThigh'), firstOf(parts, 'rightThigh')];
  if (l < 0 || r < 0) return null;
  const sockets = middle(positions, l, r);
  const [a, b] = [firstOf(parts, 'leftUpperArm'), firstOf(parts, 'rightUpperArm')];
  const top =
    a >= 0 && b >= 0
      ? middle(positions, a, b)
      : vecAt(positions, parts.neck?.joints[0] ?? parts.spine?.joints.at(-1) ?? parts.head?.joints[0] ?? l);
  const x = unit(minus(vecAt(positions, l), vecAt(positions, r)));
  const up = across(minus(top, sockets), x);
  const y = norm(up) > 1e-6 ? unit(up) : unit(across([0, 1, 0], x));
  return fromBasis(x, y, cross(x, y));
}

const middle = (p: ArrayLike<number>, a: number, b: number): Vec3 => times(plus(vecAt(p, a), vecAt(p, b)), 0.5);
const inverse = (q: Quat): Quat => [-q[0], -q[1], -q[2], q[3]];

/**
 * Lays the first bone of a limb along a direction with its hinge along another, and the second bone on from it, bent a little.
 *
 * @param usual the hinge of a limb that is too straight to show its own
 */
function layLimb(limb: readonly number[], at: (j: number) => Vec3, turn: Turn, along: Vec3, hinge: Vec3, usual: Vec3): void {
  const [first, second, end] = limb;
  const upper = unit(minus(at(second), at(first)));
  const lower = unit(minus(at(end), at(second)));
  const seen = cross(upper, lower);
  const own = norm(seen) > SHOWS_PLANE && inner(unit(seen), usual) > 0.3 ? unit(seen) : usual;
  turn(first, between(upper, own, along, unit(across(hinge, along))));
  const bent = turned(fromAxisAngle(hinge, KEPT_BEND), 0, along);
  turn(second, shortestTurn(unit(minus(at(end), at(second))), bent));
}

/** The turn that takes one pair of directions at right angles to another. */
function between(a: Vec3, n: Vec3, b: Vec3, m: Vec3): Quat {
  const out: [number, number, number, number] = [0, 0, 0, 1];
  multiply(out, 0, fromBasis(b, m, cross(b, m)), 0, inverse(fromBasis(a, n, cross(a, n))), 0);
  return out;
}

/** A foot lies as it did when the whole stood up, turned about the vertical until it points to the front. */
function layFoot(foot: number, toes: number, skeleton: Skeleton, before: Float64Array, pose: WorldPose, turn: Turn): void {
  const back: [number, number, number, number] = [0, 0, 0, 1];
  const now = pose.rotations.subarray(foot * 4, foot * 4 + 4);
  multiply(back, 0, before, foot * 4, [-now[0], -now[1], -now[2], now[3]], 0);
  turn(foot, back);
  const tip = toes >= 0 ? minus(vecAt(pose.positions, toes), vecAt(pose.positions, foot)) : endOf(skeleton, pose, foot);
  if (!tip || Math.hypot(tip[0], tip[2]) < 1e-6) return;
  turn(foot, [0, Math.sin(-Math.atan2(tip[0], tip[2]) / 2), 0, Math.cos(-Math.atan2(tip[0], tip[2]) / 2)]);
}

/** The first end site of a joint from the joint, in the world; null when it has none of any length. */
function endOf(skeleton: Skeleton, pose: WorldPose, joint: number): Vec3 | null {
  const site = skeleton.joints[joint].endSites.find((tip) => norm(tip) > 1e-6);
  return site ? turned(pose.rotations, joint * 4, site) : null;
}

/** Where a hand points and where its thumb is, directions in the world; null for what does not show. */
export function handAxes(side: Side, parts: Chain, skeleton: Skeleton, pose: WorldPose): { along: Vec3 | null; thumb: Vec3 | null } {
  const hand = firstOf(parts, `${side}Hand`);
  if (hand < 0) return { along: null, thumb: null };
  const at = vecAt(pose.positions, hand);
  const to = (finger: (typeof FINGERS)[number]): Vec3 | null => {
    const joint = firstOf(parts, `${side}${finger}`);
    return joint < 0 ? null : minus(vecAt(pose.positions, joint), at);
  };
  const fingers = FINGERS.slice(1)
    .map(to)
    .filter((v) => v !== null);
  const tip = endOf(skeleton, pose, hand);
  const sum = fingers.length > 0 ? fingers.reduce((a, b) => plus(a, b)) : tip;
  if (!sum || norm(sum) < 1e-6) return { along: null, thumb: null };
  const along = unit(sum);
  const outer = to('Ring') ?? to('Little') ?? to('Middle');
  const inward = to('Index');
  const aside = to('Thumb') ?? (inward && outer ? minus(inward, outer) : null);
  const thumb = aside && across(aside, along);
  return { along, thumb: thumb && norm(thumb) > 0.1 * norm(aside) ? unit(thumb) : null };
}

/** A hand goes on from its forearm, its thumb to the front where it shows one. */
function layHand(side: Side, parts: Chain, skeleton: Skeleton, pose: WorldPose, turn: Turn, forearm: Vec3): void {
  const hand = firstOf(parts, `${side}Hand`);
  const { along } = handAxes(side, parts, skeleton, pose);
  if (along && inner(along, forearm) > 0.5) turn(hand, shortestTurn(along, forearm));
  const now = handAxes(side, parts, skeleton, pose);
  if (!now.along || !now.thumb) return;
  const front = unit(across(FRONT, now.along));
  const angle = Math.atan2(inner(cross(now.thumb, front), now.along), inner(now.thumb, front));
  // A thumb that seems to point backwards was not one.
  if (Math.abs(angle) < (100 * Math.PI) / 180) turn(hand, fromAxisAngle(now.along, angle));
}

/** In place: turns parts by hand, from the hips outwards, each with all that hangs from it: degrees about X, then Y, then Z of the world. */
export function turnParts(skeleton: Skeleton, parts: Chain, pose: WorldPose, turns: Readonly<Partial<Record<Part, Vec3>>>): void {
  for (const part of PARTS) {
    const angles = turns[part];
    const joint = firstOf(parts, part);
    if (angles && joint >= 0) turnBelow(skeleton, pose, joint, turnOf(angles));
  }
}

/**
 * @example
 * turnOf([0, 90, 0]); // [0, 0.707, 0, 0.707]
 */
export function turnOf([x, y, z]: Vec3): Quat {
  const out: [number, number, number, number] = [...fromAxisAngle([1, 0, 0], x * RADIANS)];
  multiply(out, 0, fromAxisAngle([0, 1, 0], y * RADIANS), 0, out, 0);
  multiply(out, 0, fromAxisAngle([0, 0, 1], z * RADIANS), 0, out, 0);
  return out;
}

/** Three angles as `turnOf` takes them, degrees; those of the middle axis within a right angle. */
export function anglesOf(q: ArrayLike<number>): [number, number, number] {
  const [x, y, z, w] = [q[0], q[1], q[2], q[3]];
  const sine = Math.max(-1, Math.min(1, 2 * (w * y - x * z)));
  // Straight up or down, only the sum of the other two shows.
  if (Math.abs(sine) > 1 - 1e-9) return [2 * Math.atan2(x, w) * DEGREES, Math.asin(sine) * DEGREES, 0];
  return [
    Math.atan2(2 * (w * x + y * z), 1 - 2 * (x * x + y * y)) * DEGREES,
    Math.asin(sine) * DEGREES,
    Math.atan2(2 * (w * z + x * y), 1 - 2 * (y * y + z * z)) * DEGREES,
  ];
}

/**
 * A turn given by three angles, turned on about one of the world's axes (0 to the left, 1 up, 2 to the front); degrees, to a hundredth.
 *
 * @example
 * turnedOn([0, 0, 0], 1, 15); // [0, 15, 0]
 */
export function turnedOn(angles: Vec3, axis: 0 | 1 | 2, degrees: number): [number, number, number] {
  const out: [number, number, number, number] = [0, 0, 0, 1];
  const about: Vec3 = [Number(axis === 0), Number(axis === 1), Number(axis === 2)];
  multiply(out, 0, fromAxisAngle(about, degrees * RADIANS), 0, turnOf(angles), 0);
  const round = (v: number) => Math.round(v * 100) / 100 + 0;
  const [x, y, z] = anglesOf(out);
  return [round(x), round(y), round(z)];
}
