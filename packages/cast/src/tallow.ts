import { cross, fromAxisAngle, fromBasis, multiply, plus, times, unit, type Quat, type Vec3 } from '@lantern/motion';
import { boneOf, frameAlong, SIDES, type Build, type BuiltJoint } from './build';
import { overThighs, type Cloth, type Level } from './cloth';
import { fleshOf } from './people';

const JERSEY: Vec3 = [0.5, 0.42, 0.29];
const SLEEVE: Vec3 = [0.4, 0.33, 0.22];
const STRAP: Vec3 = [0.22, 0.13, 0.07];
const TROUSERS: Vec3 = [0.1, 0.135, 0.175];
const BOOTS: Vec3 = [0.16, 0.085, 0.045];
const SKIN: Vec3 = [0.52, 0.29, 0.18];
const KERCHIEF: Vec3 = [0.55, 0.34, 0.06];
const APRON: Vec3 = [0.4, 0.36, 0.29];
const HAIR: Vec3 = [0.16, 0.075, 0.03];

/**
 * Tallow, the ferry hand: short and broad, 1.50 m, standing with her arms half down; four joints in the back, two in the neck, joints
 * that take up twist in arms and thighs, three fingers, and axes along X, rolled, mirrored on the right.
 */
export function tallow(): Build {
  const joints: BuiltJoint[] = [];
  const add = (name: string, parent: string | null, at: Vec3, to: Vec3) => joints.push({ name, parent, at, to });
  add('Ground', null, [0, 0, 0], [0, 0.2, 0]);
  add('Pelvis', 'Ground', [0, 0.755, 0], [0, 0.83, -0.012]);
  add('Back1', 'Pelvis', [0, 0.83, -0.012], [0, 0.91, -0.022]);
  add('Back2', 'Back1', [0, 0.91, -0.022], [0, 1.0, -0.026]);
  add('Back3', 'Back2', [0, 1.0, -0.026], [0, 1.09, -0.02]);
  add('Back4', 'Back3', [0, 1.09, -0.02], [0, 1.17, -0.006]);
  add('NeckLow', 'Back4', [0, 1.17, -0.006], [0, 1.215, 0.008]);
  add('NeckHigh', 'NeckLow', [0, 1.215, 0.008], [0, 1.26, 0.02]);
  add('Head', 'NeckHigh', [0, 1.26, 0.02], [0, 1.5, 0.02]);
  for (const [side, s] of SIDES) {
    const S = side === 'left' ? 'L' : 'R';
    const shoulder: Vec3 = [0.2 * s, 1.115, -0.022];
    const down = unit([0.766 * s, -0.643, 0.0]);
    const elbow = plus(shoulder, times(down, 0.225));
    const lower = unit([0.75 * s, -0.645, 0.12]);
    const wrist = plus(elbow, times(lower, 0.205));
    const knuckle = plus(wrist, times(lower, 0.075));
    const aside: Vec3 = unit(cross(cross(lower, [0, 0, 1]), lower));
    add(`Collar${S}`, 'Back4', [0.045 * s, 1.13, -0.004], shoulder);
    add(`ArmUp${S}`, `Collar${S}`, shoulder, elbow);
    add(`ArmUpTwist${S}`, `ArmUp${S}`, plus(shoulder, times(down, 0.12)), elbow);
    add(`ArmLow${S}`, `ArmUp${S}`, elbow, wrist);
    add(`ArmLowTwist${S}`, `ArmLow${S}`, plus(elbow, times(lower, 0.12)), wrist);
    add(`Hand${S}`, `ArmLow${S}`, wrist, knuckle);
    const finger = (name: string, at: Vec3, along: Vec3, first: number, second: number) => {
      const bend = plus(at, times(along, first));
      add(`${name}1${S}`, `Hand${S}`, at, bend);
      add(`${name}2${S}`, `${name}1${S}`, bend, plus(bend, times(along, second)));
    };
    finger(
      'Thumb',
      plus(wrist, plus(times(lower, 0.025), times(aside, 0.03))),
      unit(plus(times(lower, 0.6), times(aside, 0.8))),
      0.03,
      0.028,
    );
    finger('Index', plus(knuckle, times(aside, 0.02)), lower, 0.036, 0.034);
    finger('Ring', plus(knuckle, times(aside, -0.018)), lower, 0.034, 0.032);
    const knee: Vec3 = [0.124 * s, 0.385, 0.012];
    const ankle: Vec3 = [0.126 * s, 0.074, -0.016];
    const hip: Vec3 = [0.112 * s, 0.7, -0.002];
    add(`Thigh${S}`, 'Pelvis', hip, knee);
    add(`ThighTwist${S}`, `Thigh${S}`, plus(hip, times(plus(knee, times(hip, -1)), 0.5)), knee);
    add(`Shin${S}`, `ThighTwist${S}`, knee, ankle);
    add(`Foot${S}`, `Shin${S}`, ankle, [0.142 * s, 0.022, 0.092]);
    add(`Toes${S}`, `Foot${S}`, [0.142 * s, 0.022, 0.092], [0.152 * s, 0.018, 0.16]);
  }
  const flesh = fleshOf({
    joints,
    skin: SKIN,
    trunk: {
      run: ['Pelvis', 'Back1', 'Back2', 'Back3', 'Back4', 'NeckLow', 'NeckHigh'],
      sections: [
        [-0.2, 0.12, 0.1, TROUSERS],
        [-0.08, 0.185, 0.147, TROUSERS],
        [0.06, 0.198, 0.167, TROUSERS],
        [0.13, 0.196, 0.17, TROUSERS],
        [0.14, 0.198, 0.17, JERSEY],
        [0.26, 0.192, 0.168, JERSEY],
        [0.4, 0.187, 0.16, JERSEY],
        [0.55, 0.192, 0.156, JERSEY],
        [0.68, 0.19, 0.142, JERSEY],
        [0.78, 0.148, 0.112, JERSEY],
        [0.85, 0.09, 0.088, JERSEY],
        [0.93, 0.073, 0.076, JERSEY],
        [0.94, 0.06, 0.064, SKIN],
        [1.05, 0.057, 0.062, SKIN],
      ],
    },
    head: {
      joint: 'Head',
      crown: 1.496,
      nose: [0, 0.075, 0.128],
      eyes: [0.037, 0.108, 0.1],
      sections: [
        [-0.16, 0.035, 0.04, SKIN, 0.04],
        [-0.06, 0.068, 0.075, SKIN, 0.028],
        [0.12, 0.085, 0.098, SKIN, 0.016],
        [0.34, 0.092, 0.106, SKIN, 0.008],
        [0.5, 0.092, 0.108, SKIN, 0.004],
        [0.52, 0.098, 0.113, HAIR, 0.002],
        [0.6, 0.1, 0.115, HAIR, 0],
        [0.61, 0.105, 0.121, KERCHIEF, 0],
        [0.74, 0.106, 0.121, KERCHIEF, -0.002],
        [0.86, 0.088, 0.102, KERCHIEF, -0.006],
        [0.95, 0.058, 0.07, KERCHIEF, -0.01],
        [1.0, 0.02, 0.028, KERCHIEF, -0.012],
      ],
    },
    sides: SIDES.map(([side]) => {
      const S = side === 'left' ? 'L' : 'R';
      return {
        leg: [`Thigh${S}`, `ThighTwist${S}`, `Shin${S}`],
        legSections: [
          [-0.16, 0.05, 0.06, TROUSERS],
          [-0.1, 0.082, 0.095, TROUSERS],
          [-0.02, 0.1, 0.112, TROUSERS],
          [0.12, 0.106, 0.112, TROUSERS],
          [0.3, 0.095, 0.1, TROUSERS],
          [0.48, 0.078, 0.084, TROUSERS],
          [0.56, 0.074, 0.08, TROUSERS],
          [0.64, 0.077, 0.083, TROUSERS],
          [0.65, 0.084, 0.09, BOOTS],
          [0.8, 0.07, 0.076, BOOTS],
          [0.94, 0.056, 0.062, BOOTS],
          [1.02, 0.054, 0.06, BOOTS],
        ],
        foot: [`Foot${S}`, `Toes${S}`],
        boot: { half: 0.058, height: 0.098, colour: BOOTS },
        arm: [`Collar${S}`, `ArmUp${S}`, `ArmLow${S}`],
        armSections: [
          [0.06, 0.065, 0.058, JERSEY],
          [0.2, 0.084, 0.074, JERSEY],
          [0.3, 0.08, 0.073, JERSEY],
          [0.44, 0.068, 0.065, JERSEY],
          [0.55, 0.062, 0.06, JERSEY],
          [0.555, 0.07, 0.067, SLEEVE],
          [0.615, 0.071, 0.068, SLEEVE],
          [0.62, 0.05, 0.049, SKIN],
          [0.68, 0.051, 0.05, SKIN],
          [0.76, 0.052, 0.048, SKIN],
          [0.86, 0.044, 0.04, SKIN],
          [0.94, 0.036, 0.032, SKIN],
          [1.02, 0.032, 0.027, SKIN],
        ],
        palm: {
          run: [`Hand${S}`],
          sections: [
            [-0.1, 0.03, 0.025, SKIN],
            [0.2, 0.042, 0.024, SKIN],
            [0.7, 0.047, 0.022, SKIN],
            [1.05, 0.042, 0.018, SKIN],
            [1.15, 0.03, 0.012, SKIN],
          ],
        },
        fingers: [
          { run: [`Thumb1${S}`, `Thumb2${S}`], thick: 0.014 },
          { run: [`Index1${S}`, `Index2${S}`], thick: 0.0165 },
          { run: [`Ring1${S}`, `Ring2${S}`], thick: 0.0165 },
        ],
      };
    }),
    cloths: [
      // The apron: a bib over the chest, and down to the knees round both sides.
      {
        colour: APRON,
        round: 6,
        levels: [
          { at: [0, 1.11, -0.012], wide: 0.17, deep: 0.142, from: -30, to: 30 },
          { at: [0, 1.02, -0.02], wide: 0.198, deep: 0.172, from: -38, to: 38 },
          { at: [0, 0.9, -0.02], wide: 0.204, deep: 0.186, from: -46, to: 46 },
        ],
        weights: (_, down) => [
          ['Back4', Math.max(0, 1 - 2 * down)],
          ['Back3', 1 - Math.abs(2 * down - 1)],
          ['Back2', Math.max(0, 2 * down - 1)],
        ],
      },
      {
        colour: APRON,
        round: 10,
        levels: [
          { at: [0, 0.89, -0.016], wide: 0.208, deep: 0.19, from: -88, to: 88 },
          { at: [0, 0.78, 0.004], wide: 0.219, deep: 0.2, from: -90, to: 90 },
          { at: [0, 0.66, 0.008], wide: 0.224, deep: 0.196, from: -88, to: 88 },
          { at: [0, 0.54, 0.01], wide: 0.229, deep: 0.19, from: -84, to: 84 },
          { at: [0, 0.44, 0.008], wide: 0.23, deep: 0.184, from: -80, to: 80 },
        ],
        weights: overThighs('Pelvis', ['ThighL', 'ThighR'], 0.14),
      },
      {
        colour: STRAP,
        round: 16,
        thick: 0.02,
        levels: [0.9, 0.868].map((y) => ({ at: [0, y, -0.006], wide: 0.213, deep: 0.187, from: -180, to: 180 })),
        weights: () => [
          ['Back1', 0.6],
          ['Pelvis', 0.4],
        ],
      },
      // The strap of the bib round the neck.
      ...SIDES.map(([, s]): Cloth => {
        const strap = (y: number, z: number, wide: number, deep: number, from: number, to: number): Level => ({
          at: [0, y, z],
          wide,
          deep,
          from: Math.min(s * from, s * to),
          to: Math.max(s * from, s * to),
        });
        return {
          colour: STRAP,
          round: 2,
          levels: [
            strap(1.185, 0, 0.1, 0.096, 62, 84),
            strap(1.15, -0.006, 0.128, 0.114, 38, 56),
            strap(1.105, -0.012, 0.168, 0.143, 22, 32),
          ],
          weights: () => [['Back4', 1]],
        };
      }),
    ],
    knobs: [
      { at: [0, 1.42, -0.125], size: 0.045, colour: HAIR, weights: [['Head', 1]] },
      { at: [0, 1.372, -0.118], size: 0.02, colour: KERCHIEF, weights: [['Head', 1]] },
      { at: [0, 0.884, -0.2], size: 0.026, colour: STRAP, weights: [['Back1', 1]] },
    ],
  });
  return { name: 'Tallow', joints, flesh, axes: rolledX };
}

/** X along the bone, on the right against it, and the rest rolled by a third of a right angle: nobody's world axes. */
function rolledX(joint: BuiltJoint): Quat {
  if (joint.parent === null) return [0, 0, 0, 1];
  const bone = boneOf(joint);
  const { second, third } = frameAlong(bone, [0, 0, 1]);
  const isRight = joint.name.endsWith('R');
  const frame = isRight ? fromBasis(times(bone, -1), second, times(third, -1)) : fromBasis(bone, second, third);
  const out: [number, number, number, number] = [0, 0, 0, 1];
  multiply(out, 0, frame, 0, fromAxisAngle([1, 0, 0], Math.PI / 6), 0);
  return out;
}
