import { IDENTITY, type Joint, type Skeleton, type Vec3 } from '@lantern/motion';

/** Lengths of a performer, metres. Segment shares of the stature after Winter. */
export interface Figure {
  readonly stature: number;
  readonly skeleton: Skeleton;
  readonly hipHalfWidth: number;
  readonly hipDrop: number;
  readonly thigh: number;
  readonly shin: number;
  readonly ankleHeight: number;
  readonly heelBack: number;
  readonly ballAhead: number;
  readonly ballHeight: number;
  readonly toeLength: number;
}

export const JOINTS = [
  'Hips',
  'Waist',
  'Ribs',
  'Neck',
  'Head',
  'LeftCollar',
  'LeftArm',
  'LeftForearm',
  'LeftHand',
  'RightCollar',
  'RightArm',
  'RightForearm',
  'RightHand',
  'LeftThigh',
  'LeftShin',
  'LeftFoot',
  'LeftToes',
  'RightThigh',
  'RightShin',
  'RightFoot',
  'RightToes',
] as const;

export type JointName = (typeof JOINTS)[number];

export const jointNumber = (name: JointName): number => JOINTS.indexOf(name);

/** Wick, 1.78 m, and anyone of his proportions: a T-pose facing +Z, feet on the floor, every rest rotation identity. */
export function figure(stature = 1.78): Figure {
  const h = stature / 1.78;
  const hipHalfWidth = 0.09 * h;
  const hipDrop = 0.07 * h;
  const thigh = 0.436 * h;
  const shin = 0.432 * h;
  const ankleHeight = 0.085 * h;
  const heelBack = 0.055 * h;
  const ballAhead = 0.14 * h;
  const ballHeight = 0.022 * h;
  const toeLength = 0.07 * h;
  const hipsHeight = hipDrop + thigh + shin + ankleHeight;

  const joints: Joint[] = [];
  const add = (name: JointName, parent: JointName | null, offset: Vec3, endSites: readonly Vec3[] = []) => {
    joints.push({ name, parent: parent === null ? -1 : jointNumber(parent), offset, restRotation: IDENTITY, endSites });
  };
  add('Hips', null, [0, hipsHeight, 0]);
  add('Waist', 'Hips', [0, 0.1 * h, -0.01 * h]);
  add('Ribs', 'Waist', [0, 0.14 * h, 0]);
  add('Neck', 'Ribs', [0, 0.25 * h, 0.005 * h]);
  add('Head', 'Neck', [0, 0.1 * h, 0.015 * h], [[0, stature - hipsHeight - 0.59 * h, 0]]);
  for (const [side, sign] of [
    ['Left', 1],
    ['Right', -1],
  ] as const) {
    add(`${side}Collar`, 'Ribs', [0.03 * h * sign, 0.2 * h, 0.01 * h]);
    add(`${side}Arm`, `${side}Collar`, [0.15 * h * sign, 0, -0.01 * h]);
    add(`${side}Forearm`, `${side}Arm`, [0.3 * h * sign, 0, 0]);
    add(`${side}Hand`, `${side}Forearm`, [0.26 * h * sign, 0, 0], [[0.18 * h * sign, 0, 0]]);
  }
  for (const [side, sign] of [
    ['Left', 1],
    ['Right', -1],
  ] as const) {
    add(`${side}Thigh`, 'Hips', [hipHalfWidth * sign, -hipDrop, 0]);
    add(`${side}Shin`, `${side}Thigh`, [0, -thigh, 0]);
    add(`${side}Foot`, `${side}Shin`, [0, -shin, 0]);
    add(`${side}Toes`, `${side}Foot`, [0, ballHeight - ankleHeight, ballAhead], [[0, -ballHeight, toeLength]]);
  }
  return {
    stature,
    skeleton: { joints },
    hipHalfWidth,
    hipDrop,
    thigh,
    shin,
    ankleHeight,
    heelBack,
    ballAhead,
    ballHeight,
    toeLength,
  };
}
