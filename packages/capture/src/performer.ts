import {
  alignSigns,
  createMotion,
  fromAxisAngle,
  fromBasis,
  multiply,
  multiplyInverse,
  slerp,
  type Motion,
  type Side,
  type Vec3,
  RADIANS,
  type Random,
} from '@lantern/motion';
import { holding, reachWithArm, type Hold } from './arms';
import type { Figure, JointName } from './figure';
import type { FootPose } from './foot';
import { smooth } from './gait-table';
import { hipJoint, legMotion } from './legs';
import type { FloorPath } from './path';
import { pelvis, type Pelvis } from './pelvis';
import { FINE, type Plan } from './plan-data';

type Q = [number, number, number, number];

const TURN = 2 * Math.PI;
const X: Vec3 = [1, 0, 0];
const Y: Vec3 = [0, 1, 0];
const Z: Vec3 = [0, 0, 1];

const about = (axis: Vec3, radians: number): Q => fromAxisAngle(axis, radians);
function chain(...rotations: readonly Q[]): Q {
  const out: Q = [0, 0, 0, 1];
  for (const q of rotations) multiply(out, 0, out, 0, q, 0);
  return out;
}
function between(a: Q, b: Q, t: number): Q {
  const out: Q = [0, 0, 0, 1];
  slerp(out, 0, a, 0, b, 0, t);
  return out;
}

/** Slow wandering of a person: a few sines of unrelated periods, different for every seed. Amplitude about 1. */
function wander(random: Random, seconds: number): (t: number) => number {
  const parts = [1, 1.618, 2.7].map((k) => ({ rate: k / seconds, phase: random.next() * TURN, size: 0.7 / k ** 0.5 }));
  return (t) => parts.reduce((sum, part) => sum + part.size * Math.sin(TURN * part.rate * t + part.phase), 0);
}

/**
 * The motion of a planned script, clean: metres, Y up.
 *
 * @param samples the fine samples that are wanted, in order; they become the frames
 */
export function perform(
  figure: Figure,
  plan: Plan,
  path: FloorPath,
  random: Random,
  samples: readonly number[],
  holds: readonly Hold[] = [],
): Motion {
  const hips = pelvis(figure, plan, path);
  const idle = standIdly(hips, plan, random, holds);
  const legs = { left: legMotion(figure, plan, hips, 'left'), right: legMotion(figure, plan, hips, 'right') };
  const hipOf = { left: hipJoint(figure, hips, 'left'), right: hipJoint(figure, hips, 'right') };
  const motion = createMotion(figure.skeleton, FINE, samples.length);
  const globals = new Map<JointName, Q>();
  const vary = { arms: wander(random, 9), lean: wander(random, 13) };

  for (const [f, i] of samples.entries()) {
    const t = i / FINE;
    const table = hips.tables[i];
    const u = plan.phase[i];
    const heading = hips.heading[i];
    const ahead =
      path.at(plan.distance[i] + 0.35 * smooth(plan.speed[i])).heading + plan.style.facing + plan.spin[Math.min(plan.samples - 1, i + 96)];
    const pelvisTurn = chain(about(Y, heading + hips.axial[i]), about(Z, -hips.list[i]));
    // Crouched before a hop, the trunk comes forward and the arms go back; they swing up with the leap.
    const crouch = Math.max(0, -(plan.height[i] || 0)) / 0.25;
    const leap = plan.height[i] ? Math.max(-1, Math.min(1, plan.height[i] / 0.13)) : 0;
    const lean = (table.lean + 0.4 * vary.lean(t) + idle.breath[i] * 0.5 + 34 * crouch + plan.lurch[i]) * RADIANS;
    const ribs = chain(
      about(Y, heading + (table.axial * 1.1 * Math.cos(TURN * (u - 0.03)) + idle.look[i] * 1.5) * RADIANS),
      about(X, lean),
      about(Z, hips.list[i] * 0.15),
    );
    const head = chain(about(Y, ahead + idle.look[i] * 6 * RADIANS), about(X, (2 + 0.3 * idle.breath[i]) * RADIANS));
    globals.set('Hips', pelvisTurn);
    globals.set('Waist', between(pelvisTurn, ribs, 0.55));
    globals.set('Ribs', ribs);
    globals.set('Neck', between(ribs, head, 0.4));
    globals.set('Head', head);
    for (const side of ['left', 'right'] as const) {
      setArm(globals, side, ribs, table, u, 1 + 0.06 * vary.arms(t), idle.breath[i], leap);
      setLeg(globals, side, figure, hipOf[side](i), legs[side][i], heading + hips.axial[i]);
    }
    for (const hold of holds) reachWithArm(globals, figure, [hips.x[i], hips.y[i], hips.z[i]], hold, t);
    motion.rootPositions.set([hips.x[i], hips.y[i], hips.z[i]], f * 3);
    figure.skeleton.joints.forEach((joint, j) => {
      const q = globals.get(joint.name as JointName);
      const parent = joint.parent < 0 ? undefined : globals.get(figure.skeleton.joints[joint.parent].name as JointName);
      if (!q) return;
      const at = (f * figure.skeleton.joints.length + j) * 4;
      if (parent) multiplyInverse(motion.rotations, at, parent, 0, q, 0);
      else motion.rotations.set(q, at);
    });
  }
  alignSigns(motion);
  return motion;
}

/** Breath, glances, and the weight going from leg to leg of someone who waits; moves the hips in place. */
function standIdly(hips: Pelvis, plan: Plan, random: Random, holds: readonly Hold[]) {
  const breath = new Float64Array(plan.samples);
  const look = new Float64Array(plan.samples);
  const aside = wander(random, 8);
  const along = wander(random, 11);
  const glance = wander(random, 10);
  for (let i = 0; i < plan.samples; i++) {
    const t = i / FINE;
    const still = 1 - smooth(plan.speed[i] / 0.7);
    breath[i] = Math.sin(TURN * 0.24 * t);
    look[i] = glance(t) * still;
    const shift = 0.016 * aside(t) * still;
    // With a hand on something he leans on it and back.
    const rests = Math.max(0, ...holds.map((hold) => holding(hold, t)));
    const fore = (0.006 * along(t) + 0.03 * rests * Math.sin(TURN * 0.45 * t)) * still;
    const c = Math.cos(hips.heading[i]),
      s = Math.sin(hips.heading[i]);
    hips.x[i] += c * shift + s * fore;
    hips.z[i] += c * fore - s * shift;
    hips.y[i] -= still * (0.002 + 0.002 * aside(t) ** 2 - 0.0015 * breath[i]);
    hips.list[i] -= shift * 1.2;
    hips.axial[i] += 1.5 * RADIANS * along(t) * still;
  }
  return { breath, look };
}

function setArm(
  globals: Map<JointName, Q>,
  side: Side,
  ribs: Q,
  table: Pelvis['tables'][number],
  u: number,
  vigour: number,
  breath: number,
  leap: number,
): void {
  const sign = side === 'left' ? 1 : -1;
  // The arm is forward at the strike of the other foot, the elbow bends a little later.
  const swing = Math.cos(TURN * (u - (side === 'left' ? 0.5 : 0)));
  const late = Math.cos(TURN * (u - (side === 'left' ? 0.5 : 0) - 0.05));
  const running = smooth((table.elbow - 30) / 50);
  const flexion = (table.armSwing * vigour * swing - 2 - 8 * running + 38 * leap) * RADIANS;
  const elbow = (table.elbow + table.elbowSwing * vigour * late + 40 * Math.max(0, leap)) * RADIANS;
  const [collar, arm, forearm, hand] =
    side === 'left'
      ? (['LeftCollar', 'LeftArm', 'LeftForearm', 'LeftHand'] as const)
      : (['RightCollar', 'RightArm', 'RightForearm', 'RightHand'] as const);
  const q = chain(ribs, about(Z, sign * (0.8 * breath - 2) * RADIANS), about(Y, sign * -2 * swing * RADIANS));
  globals.set(collar, q);
  const down = chain(ribs, about(X, -flexion), about(Z, -sign * (80 - 6 * running) * RADIANS), about(X, (14 + 16 * running) * RADIANS));
  globals.set(arm, down);
  const bent = chain(down, about(Y, -sign * elbow));
  globals.set(forearm, bent);
  globals.set(hand, chain(bent, about(Z, -sign * 4 * RADIANS), about(Y, -sign * 6 * RADIANS)));
}

/** Two bones, closed form: the knee in the plane through hip, ankle and the way the foot points. */
function setLeg(globals: Map<JointName, Q>, side: Side, figure: Figure, hip: Vec3, foot: FootPose, facing: number): void {
  const { thigh, shin } = figure;
  const turn = facing + 0.6 * (foot.yaw - facing);
  const d = [hip[0] - foot.ankle[0], hip[1] - foot.ankle[1], hip[2] - foot.ankle[2]];
  const length = Math.hypot(d[0], d[1], d[2]);
  const up: Vec3 = [d[0] / length, d[1] / length, d[2] / length];
  const reach = Math.min(length, thigh + shin - 1e-6);
  const left = unit(cross(up, [Math.sin(turn), 0, Math.cos(turn)]));
  const ahead = cross(left, up);
  const along = (thigh ** 2 - shin ** 2 + reach ** 2) / (2 * reach);
  const out = Math.sqrt(Math.max(0, thigh ** 2 - along ** 2));
  const thighUp = unit([up[0] * along - ahead[0] * out, up[1] * along - ahead[1] * out, up[2] * along - ahead[2] * out]);
  const rest = reach - along;
  const shinUp = unit([up[0] * rest + ahead[0] * out, up[1] * rest + ahead[1] * out, up[2] * rest + ahead[2] * out]);
  const [thighName, shinName, footName, toesName] =
    side === 'left'
      ? (['LeftThigh', 'LeftShin', 'LeftFoot', 'LeftToes'] as const)
      : (['RightThigh', 'RightShin', 'RightFoot', 'RightToes'] as const);
  globals.set(thighName, fromBasis(left, thighUp, cross(left, thighUp)));
  globals.set(shinName, fromBasis(left, shinUp, cross(left, shinUp)));
  const q = chain(about(Y, foot.yaw), about(X, -foot.pitch));
  globals.set(footName, q);
  globals.set(toesName, chain(q, about(X, -foot.bend)));
}

const cross = (a: Vec3, b: Vec3): [number, number, number] => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

function unit(v: Vec3): [number, number, number] {
  const n = Math.hypot(v[0], v[1], v[2]);
  return [v[0] / n, v[1] / n, v[2] / n];
}
