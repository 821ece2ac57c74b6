import { bodyOf } from '../anatomy/body-of';
import { kneeAxis, reachWithLeg } from '../anatomy/leg-ik';
import { fromAxisAngle, multiply, multiplyInverse, type Quat, type Vec3 } from '../math/quat';
import { across, cross, inner, minus, norm, shortestTurn, unit, vecAt } from '../math/vec';
import { headings } from '../measure/heading';
import type { Body, Leg } from '../model/body';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';

/** A joint's turn that comes of a pose changed by hand, in its own axes; of the first joint also where it has gone, metres in the world. */
export interface Grabbed {
  readonly joint: number;
  readonly local: Quat;
  readonly moved?: Vec3;
}

/** Smaller turns than this are none, the sine of half of it. */
const STILL = 1e-7;

/**
 * A pose with a joint taken hold of and drawn to a place. A hand or foot takes its arm or leg along, in closed form, and stays turned as it is in the
 * world; an elbow or knee swings about the line between the ends of its limb; the first joint is shifted; any other joint turns what it hangs from.
 *
 * @param pose one frame, in the world
 * @param to where the joint shall be, metres
 * @returns the joints that turn; what does not reach stops where it reaches to
 *
 * @example
 * grab(restMotion(motion.skeleton), 3, [0, 2, 0]).length <= 1; // true
 */
export function grab(pose: Motion, joint: number, to: Vec3): Grabbed[] {
  const globals = forwardKinematics(pose);
  const here = vecAt(globals.positions, joint);
  if (norm(minus(to, here)) < 1e-9) return [];
  if (joint === 0) return [{ joint: 0, local: [0, 0, 0, 1], moved: minus(to, here) }];
  const out = copyMotion(pose);
  const body = bodyOf(pose);
  const end = body && limbs(body).find(({ ankle }) => ankle === joint);
  const middle = body && limbs(body).find(({ knee }) => knee === joint);
  if (end) reachWithLeg(out, globals, 0, end, to, kneeAxis(globals, end));
  else if (middle) swing(out, globals, middle, to);
  else aim(out, globals, joint, to);
  return turnsBetween(pose, out);
}

/**
 * A pose with a joint turned in the world.
 *
 * @param by the turn, in the world's axes
 *
 * @example
 * turnInWorld(restMotion(motion.skeleton), 3, [0, 0, 0, 1]).joint; // 3
 */
export function turnInWorld(pose: Motion, joint: number, by: Quat): Grabbed {
  const { rotations } = forwardKinematics(pose);
  const local: [number, number, number, number] = [0, 0, 0, 1];
  multiply(local, 0, by, 0, rotations, joint * 4);
  multiplyInverse(local, 0, rotations, joint * 4, local, 0);
  return { joint, local };
}

function limbs({ arms, legs }: Body): Leg[] {
  const asLeg = ({ shoulder, elbow, wrist }: Body['arms']['left']): Leg => ({ hip: shoulder, knee: elbow, ankle: wrist, toe: -1 });
  return [legs.left, legs.right, asLeg(arms.left), asLeg(arms.right)].filter(({ hip, knee, ankle }) => hip >= 0 && knee >= 0 && ankle >= 0);
}

/** In place: the limb turned about the line between its ends so that its middle comes nearest to a place; the end keeps its rotation in the world. */
function swing(out: Motion, { positions, rotations }: Globals, { hip, knee, ankle }: Leg, to: Vec3): void {
  const { joints } = out.skeleton;
  const [a, b, c] = [hip, knee, ankle].map((j) => vecAt(positions, j));
  const line = unit(minus(c, a));
  const [from, wanted] = [across(minus(b, a), line), across(minus(to, a), line)];
  const by = fromAxisAngle(line, Math.atan2(inner(cross(from, wanted), line), inner(from, wanted)));
  const world = [0, 0, 0, 1];
  multiply(world, 0, by, 0, rotations, hip * 4);
  multiplyInverse(out.rotations, hip * 4, rotations, joints[hip].parent * 4, world, 0);
  multiply(world, 0, by, 0, rotations, joints[ankle].parent * 4);
  multiplyInverse(out.rotations, ankle * 4, world, 0, rotations, ankle * 4);
}

/** In place: what a joint hangs from is turned so that the joint points to a place. */
function aim(out: Motion, { positions, rotations }: Globals, joint: number, to: Vec3): void {
  const { joints } = out.skeleton;
  const up = joints[joint].parent;
  const pivot = vecAt(positions, up);
  const [from, wanted] = [minus(vecAt(positions, joint), pivot), minus(to, pivot)];
  if (norm(from) < 1e-6 || norm(wanted) < 1e-6) return;
  const world = [0, 0, 0, 1];
  multiply(world, 0, shortestTurn(unit(from), unit(wanted)), 0, rotations, up * 4);
  const over = joints[up].parent;
  if (over < 0) out.rotations.set(world, up * 4);
  else multiplyInverse(out.rotations, up * 4, rotations, over * 4, world, 0);
}

function turnsBetween(a: Motion, b: Motion): Grabbed[] {
  return a.skeleton.joints.flatMap((_, joint) => {
    const local: [number, number, number, number] = [0, 0, 0, 1];
    multiplyInverse(local, 0, a.rotations, joint * 4, b.rotations, joint * 4);
    return Math.hypot(local[0], local[1], local[2]) > STILL ? [{ joint, local }] : [];
  });
}

/**
 * Where somebody faces in a pose, by the lines through hips and shoulders, radians about +Y, 0 to +Z; 0 for who is no person.
 *
 * @example
 * facingOf(restMotion(motion.skeleton)); // 0
 */
export function facingOf(pose: Motion): number {
  const body = bodyOf(pose);
  return body ? headings(forwardKinematics(pose), body)[0] : 0;
}
