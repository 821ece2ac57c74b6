import { alignSigns, createMotion, fromBasis, multiplyInverse, type Motion, type Random, type Side, type Vec3 } from '@lantern/motion';
import { setArm } from './arm-swing';
import { reachWithArm, type Hold } from './arms';
import { breathing } from './breath';
import type { Figure, JointName } from './figure';
import type { FootPose } from './foot';
import { hipJoint } from './hip-joint';
import { legMotion } from './legs';
import type { FloorPath } from './path';
import { keepInReach, pelvis } from './pelvis';
import type { Person } from './person';
import { FINE, type Plan } from './plan-data';
import { trunkMotion } from './trunk';
import { aboutX, aboutY, chain, type Q } from './turns';
import { settleHips, waiting } from './waiting';

/** What a performance is made of besides its plan. */
export interface Performing {
  readonly person: Person;
  readonly random: Random;
  readonly holds?: readonly Hold[];
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
  samples: readonly number[],
  { person, random, holds = [] }: Performing,
): Motion {
  const hips = pelvis(figure, plan, path, person.trunk);
  const waits = waiting(plan, random, holds, person.mood.wary);
  settleHips(hips, waits, random, holds);
  keepInReach(figure, plan, hips);
  const breath = breathing(plan.speed);
  const setTrunk = trunkMotion(hips, plan, path, { breath, waits, person }, random);
  const legs = { left: legMotion(figure, plan, hips, 'left'), right: legMotion(figure, plan, hips, 'right') };
  const hipOf = { left: hipJoint(figure, hips, 'left'), right: hipJoint(figure, hips, 'right') };
  const motion = createMotion(figure.skeleton, FINE, samples.length);
  const globals = new Map<JointName, Q>();
  const named = (j: number) => figure.skeleton.joints[j].name as JointName;
  const joints = figure.skeleton.joints.map(({ parent }, j) => ({ name: named(j), above: parent < 0 ? null : named(parent) }));

  for (const [f, i] of samples.entries()) {
    const phase = plan.phase[i];
    const from = setTrunk(globals, i);
    for (const side of ['left', 'right'] as const) {
      const vigour = person.armSwing[side];
      setArm(globals, side, from, {
        table: hips.tables[i],
        phase,
        vigour: vigour(phase),
        breath: breath[i],
        leap: leapOfArm(plan, i, person.lateArm[side]) * vigour(phase + i / FINE),
        roll: waits.roll[i],
        brow: waits.brow[side][i],
        hangs: (side === 'right' ? 0.5 : -0.5) * person.shoulder,
      });
      setLeg(globals, side, figure, hipOf[side](i), legs[side][i], hips.heading[i] + hips.axial[i]);
    }
    for (const hold of holds) reachWithArm(globals, figure, [hips.x[i], hips.y[i], hips.z[i]], hold, i / FINE);
    motion.rootPositions.set([hips.x[i], hips.y[i], hips.z[i]], f * 3);
    for (let j = 0; j < joints.length; j++) {
      const { name, above } = joints[j];
      const q = globals.get(name);
      const parent = above === null ? undefined : globals.get(above);
      if (!q) continue;
      const at = (f * joints.length + j) * 4;
      if (parent) multiplyInverse(motion.rotations, at, parent, 0, q, 0);
      else motion.rotations.set(q, at);
    }
  }
  alignSigns(motion);
  return motion;
}

/** The arms go back before a hop and swing up with the leap. @param late seconds by which an arm is behind the body */
function leapOfArm({ height }: Plan, sample: number, late: number): number {
  const then = height[Math.max(0, sample - Math.round(late * FINE))];
  return then ? Math.max(-1, Math.min(1, then / 0.13)) : 0;
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
  const q = chain(aboutY(foot.yaw), aboutX(-foot.pitch));
  globals.set(footName, q);
  globals.set(toesName, chain(q, aboutX(-foot.bend)));
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
