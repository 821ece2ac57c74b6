import {
  createMotion,
  forwardKinematics,
  fromAxisAngle,
  makeContinuous,
  multiply,
  multiplyInverse,
  rotate,
  slerp,
  type Body,
  type Motion,
  type Quat,
  type Side,
  type Skeleton,
  type Vec3,
} from '@lantern/motion';
import { jointNumber, type JointName } from '../figure';
import type { Rig } from './rig';

/** A motion of the suit on another skeleton, and what its joints truly are. */
export interface Expressed {
  readonly motion: Motion;
  readonly body: Body;
}

/**
 * The suit's motion as a rig has it: every joint turns in the world as the suit's segment that it is fixed to, so that limbs, feet and head are
 * where they were.
 *
 * @param suit clean or faulty, of a performer of the rig's stature
 */
export function expressOn(rig: Rig, suit: Motion): Expressed {
  const { joints, habits } = rig;
  const n = joints.length;
  const rest = restTurns(rig);
  const axes = joints.map((_, j) => (habits.axes === 'own' ? ownAxes(j) : inverse(rest[j])));
  // World rotation of joint j: how its segment is turned from the T-pose, times the joint's own axes in the T-pose.
  const skeleton = skeletonOf(rig, rest, axes);
  const out = createMotion(skeleton, suit.fps, suit.frames);
  const globals = forwardKinematics(suit);
  const S = globals.joints;
  const hips = joints.findIndex(({ part }) => part === 'hips');
  const places = new Float32Array(suit.frames * 3);
  const world = new Float64Array(n * 4);
  const turn = [0, 0, 0, 1];
  const arm = [0, 0, 0];
  for (let f = 0; f < suit.frames; f++) {
    const hipsAt = globals.positions.subarray(f * S * 3, f * S * 3 + 3);
    joints.forEach(({ rides, to, share = 0, parent }, j) => {
      if (rides === null) turn.splice(0, 4, 0, 0, 0, 1);
      else segment(turn, globals.rotations, f * S, rides, to, share);
      multiply(world, j * 4, turn, 0, axes[j], 0);
      if (parent < 0) out.rotations.set(world.subarray(j * 4, j * 4 + 4), (f * n + j) * 4);
      else multiplyInverse(out.rotations, (f * n + j) * 4, world, parent * 4, world, j * 4);
    });
    const rootAt = habits.root === 'travelling' || habits.root === 'two' ? [hipsAt[0], 0, hipsAt[2]] : [0, 0, 0];
    if (hips === 0) out.rootPositions.set(hipsAt, f * 3);
    else {
      out.rootPositions.set(rootAt, f * 3);
      for (let k = 0; k < 3; k++) arm[k] = hipsAt[k] - rootAt[k];
      rotate(places, f * 3, inverse([world[0], world[1], world[2], world[3]]), 0, arm, 0);
    }
  }
  for (let j = 0; j < n; j++) makeContinuous(out.rotations, j * 4, suit.frames, n * 4);
  const motion = hips === 0 ? out : { ...out, translations: new Map([[hips, places]]) };
  return { motion, body: trueBody(rig) };
}

function segment(out: number[], rotations: Float32Array, row: number, a: JointName, b: JointName | undefined, share: number): void {
  const p = (row + jointNumber(a)) * 4;
  for (let k = 0; k < 4; k++) out[k] = rotations[p + k];
  if (b) slerp(out, 0, rotations, p, rotations, (row + jointNumber(b)) * 4, share);
}

/** How each joint's segment is turned in the rest pose from where the T-pose has it. */
function restTurns({ joints, habits }: Rig): Quat[] {
  const down = (sign: number, degrees: number): Quat => fromAxisAngle([0, 0, 1], (-sign * degrees * Math.PI) / 180);
  const about = (axis: Vec3, degrees: number): Quat => fromAxisAngle(axis, (degrees * Math.PI) / 180);
  const over = (a: Quat, b: Quat): Quat => {
    const out: [number, number, number, number] = [0, 0, 0, 1];
    multiply(out, 0, a, 0, b, 0);
    return out;
  };
  return joints.map(({ rides, side }) => {
    const sign = side === 'left' ? 1 : -1;
    const isArm = rides !== null && /Arm|Forearm|Hand/.test(rides) && !rides.endsWith('Collar');
    const isThigh = rides?.endsWith('Thigh') ?? false;
    const isLower = rides !== null && /Shin|Foot|Toes/.test(rides);
    switch (habits.rest) {
      case 'A':
        return isArm ? down(sign, 45) : IDENTITY;
      case 'zero':
        // Legs splayed, arms forward and down, a stoop: what a zero pose is like that nobody ever stood in.
        if (isArm) return over(about([0, 1, 0], -sign * 35), down(sign, 20));
        if (isThigh || isLower) return about([0, 0, 1], sign * 18);
        return rides === null || rides === 'Hips' ? IDENTITY : about([1, 0, 0], 12);
      case 'seated':
        if (isThigh) return about([1, 0, 0], -88);
        return isArm ? down(sign, 70) : IDENTITY;
      case 'lying':
        return rides === null ? IDENTITY : over(about([1, 0, 0], -90), isArm ? down(sign, 60) : IDENTITY);
      case 'turned':
        return rides === null ? IDENTITY : about([0, 1, 0], 70);
      default:
        return IDENTITY;
    }
  });
}

function skeletonOf({ joints }: Rig, rest: readonly Quat[], axes: readonly Quat[]): Skeleton {
  const world = rest.map((turn, j) => product(turn, axes[j]));
  return {
    joints: joints.map(({ name, parent, place, ends }, j) => {
      const from = parent < 0 ? [0, 0, 0] : joints[parent].place;
      const way: Vec3 = [place[0] - from[0], place[1] - from[1], place[2] - from[2]];
      return {
        name,
        parent,
        // A bone is fixed to its parent's segment; in the T-pose that segment's joint has the axes alone.
        offset: parent < 0 ? way : within(axes[parent], way),
        restRotation: parent < 0 ? world[j] : product(inverse(world[parent]), world[j]),
        endSites: ends.map((end) => within(axes[j], [end[0] - place[0], end[1] - place[1], end[2] - place[2]])),
      };
    }),
  };
}

/** What is what, because it was built so. */
function trueBody({ joints }: Rig): Body {
  const find = (part: string, side: Side | null = null) => joints.findIndex((joint) => joint.part === part && joint.side === side);
  const leg = (side: Side) => {
    const isCalledToes = find('Foot', side) < 0;
    return {
      hip: find('Thigh', side),
      knee: find('Shin', side),
      ankle: find(isCalledToes ? 'Toes' : 'Foot', side),
      toe: isCalledToes ? -1 : find('Toes', side),
    };
  };
  const arm = (side: Side) => ({ shoulder: find('UpperArm', side), elbow: find('Forearm', side), wrist: find('Hand', side) });
  return {
    hips: find('hips'),
    chest: joints.findLastIndex(({ part }) => part === 'spine'),
    head: find('head'),
    legs: { left: leg('left'), right: leg('right') },
    arms: { left: arm('left'), right: arm('right') },
    doubts: [],
  };
}

const IDENTITY: Quat = [0, 0, 0, 1];
const ownAxes = (j: number): Quat => fromAxisAngle([Math.sin(j * 1.7), Math.cos(j * 2.3), Math.sin(j + 1)], 0.4 + (j % 7));
const inverse = ([x, y, z, w]: Quat): Quat => [-x, -y, -z, w];

function product(a: Quat, b: Quat): Quat {
  const out: [number, number, number, number] = [0, 0, 0, 1];
  multiply(out, 0, a, 0, b, 0);
  return out;
}

function within(axes: Quat, v: Vec3): Vec3 {
  const out: [number, number, number] = [0, 0, 0];
  rotate(out, 0, inverse(axes), 0, v, 0);
  return out;
}
