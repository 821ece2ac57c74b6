import { cross, fromAxisAngle, fromBasis, multiply, plus, times, unit, type Quat, type Vec3 } from '@lantern/motion';
import { boneOf, frameAlong, SIDES, type Build, type BuiltJoint } from './build';
import { fleshOf } from './people';

const JERSEY: Vec3 = [0.5, 0.42, 0.29];
const BRACES: Vec3 = [0.12, 0.16, 0.2];
const TROUSERS: Vec3 = [0.1, 0.135, 0.175];
const BOOTS: Vec3 = [0.16, 0.085, 0.045];
const SKIN: Vec3 = [0.52, 0.29, 0.18];
const CAP: Vec3 = [0.55, 0.36, 0.06];

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
        [-0.08, 0.185, 0.145, TROUSERS],
        [0.06, 0.2, 0.165, TROUSERS],
        [0.16, 0.203, 0.175, TROUSERS],
        [0.17, 0.206, 0.178, BRACES],
        [0.22, 0.206, 0.18, BRACES],
        [0.23, 0.208, 0.182, JERSEY],
        [0.38, 0.208, 0.182, JERSEY],
        [0.55, 0.203, 0.162, JERSEY],
        [0.7, 0.19, 0.136, JERSEY],
        [0.8, 0.135, 0.105, JERSEY],
        [0.86, 0.085, 0.085, JERSEY],
        [0.93, 0.075, 0.078, JERSEY],
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
        [0.52, 0.092, 0.108, SKIN, 0.004],
        [0.54, 0.1, 0.114, CAP, 0.006],
        [0.66, 0.1, 0.116, CAP, 0.002],
        [0.82, 0.086, 0.1, CAP, -0.004],
        [0.94, 0.058, 0.07, CAP, -0.01],
        [1.0, 0.022, 0.03, CAP, -0.012],
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
          [0.08, 0.07, 0.06, JERSEY],
          [0.22, 0.082, 0.072, JERSEY],
          [0.34, 0.074, 0.07, JERSEY],
          [0.5, 0.064, 0.062, JERSEY],
          [0.64, 0.056, 0.056, JERSEY],
          [0.72, 0.056, 0.056, JERSEY],
          [0.82, 0.053, 0.052, JERSEY],
          [0.9, 0.048, 0.045, JERSEY],
          [0.91, 0.036, 0.032, SKIN],
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
