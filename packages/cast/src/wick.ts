import type { Vec3 } from '@lantern/motion';
import { SIDES, yAlongBone, type Build, type BuiltJoint } from './build';
import { overThighs, type Cloth, type Level } from './cloth';
import { fleshOf } from './people';

const COAT: Vec3 = [0.07, 0.13, 0.155];
const SCARF: Vec3 = [0.62, 0.37, 0.07];
const TROUSERS: Vec3 = [0.13, 0.1, 0.075];
const BOOTS: Vec3 = [0.035, 0.03, 0.028];
const SKIN: Vec3 = [0.6, 0.38, 0.26];
const CAP: Vec3 = [0.05, 0.055, 0.06];
const LAPEL: Vec3 = [0.045, 0.085, 0.1];
const LEATHER: Vec3 = [0.11, 0.06, 0.03];
const BRASS: Vec3 = [0.55, 0.36, 0.1];
const SHIRT: Vec3 = [0.46, 0.42, 0.33];
const HAIR: Vec3 = [0.1, 0.055, 0.03];

/** Wick, the lamplighter: tall and thin in a long coat, 1.78 m, a T-pose; three joints in the back, one in the neck, and a coat tail. */
export function wick(): Build {
  const joints: BuiltJoint[] = [];
  const add = (name: string, parent: string | null, at: Vec3, to: Vec3) => joints.push({ name, parent, at, to });
  add('root', null, [0, 0, 0], [0, 0, 0.2]);
  add('hips', 'root', [0, 1.0, 0], [0, 1.1, -0.005]);
  add('waist', 'hips', [0, 1.1, -0.005], [0, 1.24, -0.012]);
  add('ribs', 'waist', [0, 1.24, -0.012], [0, 1.38, -0.018]);
  add('breast', 'ribs', [0, 1.38, -0.018], [0, 1.51, -0.008]);
  add('neck', 'breast', [0, 1.51, -0.008], [0, 1.6, 0.012]);
  add('head', 'neck', [0, 1.6, 0.012], [0, 1.78, 0.015]);
  add('coat_tail_1', 'hips', [0, 0.96, -0.12], [0, 0.76, -0.15]);
  add('coat_tail_2', 'coat_tail_1', [0, 0.76, -0.15], [0, 0.58, -0.17]);
  for (const [side, s] of SIDES) {
    add(`${side}_collar`, 'breast', [0.03 * s, 1.46, 0.005], [0.17 * s, 1.455, -0.012]);
    add(`${side}_upper_arm`, `${side}_collar`, [0.17 * s, 1.455, -0.012], [0.475 * s, 1.455, -0.015]);
    add(`${side}_lower_arm`, `${side}_upper_arm`, [0.475 * s, 1.455, -0.015], [0.745 * s, 1.455, -0.008]);
    add(`${side}_hand`, `${side}_lower_arm`, [0.745 * s, 1.455, -0.008], [0.835 * s, 1.453, -0.005]);
    add(`${side}_knuckles`, `${side}_hand`, [0.835 * s, 1.453, -0.005], [0.93 * s, 1.448, -0.005]);
    add(`${side}_thumb`, `${side}_hand`, [0.775 * s, 1.447, 0.022], [0.83 * s, 1.435, 0.068]);
  }
  for (const [side, s] of SIDES) {
    add(`${side}_thigh`, 'hips', [0.088 * s, 0.955, 0], [0.094 * s, 0.505, 0.006]);
    add(`${side}_shin`, `${side}_thigh`, [0.094 * s, 0.505, 0.006], [0.096 * s, 0.086, -0.012]);
    add(`${side}_foot`, `${side}_shin`, [0.096 * s, 0.086, -0.012], [0.104 * s, 0.024, 0.128]);
    add(`${side}_toes`, `${side}_foot`, [0.104 * s, 0.024, 0.128], [0.11 * s, 0.018, 0.208]);
  }
  const flesh = fleshOf({
    joints,
    skin: SKIN,
    trunk: {
      run: ['hips', 'waist', 'ribs', 'breast', 'neck'],
      sections: [
        [-0.1, 0.085, 0.07, TROUSERS],
        [-0.02, 0.118, 0.094, TROUSERS],
        [0.1, 0.118, 0.096, COAT],
        [0.2, 0.108, 0.09, COAT],
        [0.3, 0.112, 0.09, COAT],
        [0.44, 0.132, 0.1, COAT],
        [0.58, 0.15, 0.108, COAT],
        [0.69, 0.15, 0.102, COAT],
        [0.76, 0.128, 0.088, COAT],
        [0.81, 0.07, 0.068, SHIRT],
        [0.93, 0.05, 0.054, SKIN],
        [1.06, 0.047, 0.052, SKIN],
      ],
    },
    head: {
      joint: 'head',
      crown: 1.78,
      nose: [0, 0.055, 0.118],
      eyes: [0.033, 0.071, 0.094],
      sections: [
        [-0.12, 0.03, 0.035, SKIN, 0.03],
        [-0.02, 0.056, 0.064, SKIN, 0.026],
        [0.14, 0.066, 0.082, SKIN, 0.018],
        [0.36, 0.074, 0.092, SKIN, 0.012],
        [0.5, 0.077, 0.094, SKIN, 0.008],
        [0.52, 0.082, 0.099, HAIR, 0.004],
        [0.6, 0.083, 0.1, HAIR, 0.004],
        [0.605, 0.087, 0.104, CAP, 0.006],
        [0.66, 0.088, 0.105, CAP, 0.006],
        [0.67, 0.108, 0.122, CAP, 0],
        [0.8, 0.118, 0.132, CAP, -0.004],
        [0.92, 0.098, 0.112, CAP, -0.006],
        [1.0, 0.03, 0.04, CAP, -0.006],
      ],
    },
    sides: SIDES.map(([side]) => ({
      leg: [`${side}_thigh`, `${side}_shin`],
      legSections: [
        [-0.1, 0.05, 0.06, TROUSERS],
        [-0.02, 0.064, 0.08, TROUSERS],
        [0.12, 0.07, 0.085, TROUSERS],
        [0.28, 0.07, 0.078, TROUSERS],
        [0.44, 0.058, 0.064, TROUSERS],
        [0.5, 0.054, 0.062, TROUSERS],
        [0.56, 0.053, 0.06, TROUSERS],
        [0.66, 0.056, 0.062, TROUSERS],
        [0.67, 0.062, 0.068, BOOTS],
        [0.8, 0.055, 0.062, BOOTS],
        [0.93, 0.044, 0.052, BOOTS],
        [1.02, 0.043, 0.05, BOOTS],
      ],
      foot: [`${side}_foot`, `${side}_toes`],
      boot: { half: 0.046, height: 0.1, colour: BOOTS },
      arm: [`${side}_collar`, `${side}_upper_arm`, `${side}_lower_arm`],
      armSections: [
        [0.06, 0.05, 0.05, COAT],
        [0.17, 0.066, 0.062, COAT],
        [0.25, 0.06, 0.062, COAT],
        [0.36, 0.05, 0.054, COAT],
        [0.5, 0.043, 0.047, COAT],
        [0.575, 0.04, 0.043, COAT],
        [0.65, 0.041, 0.043, COAT],
        [0.8, 0.039, 0.04, COAT],
        [0.87, 0.037, 0.037, COAT],
        [0.875, 0.045, 0.043, LAPEL],
        [0.965, 0.047, 0.044, LAPEL],
        [0.97, 0.029, 0.025, SKIN],
        [1.01, 0.026, 0.02, SKIN],
      ],
      palm: {
        run: [`${side}_hand`, `${side}_knuckles`],
        sections: [
          [-0.02, 0.024, 0.02, SKIN],
          [0.15, 0.034, 0.018, SKIN],
          [0.45, 0.04, 0.016, SKIN],
          [0.75, 0.036, 0.013, SKIN],
          [0.97, 0.024, 0.009, SKIN],
          [1.0, 0.012, 0.005, SKIN],
        ],
      },
      fingers: [{ run: [`${side}_thumb`], thick: 0.0125 }],
    })),
    cloths: [
      ...SIDES.map(([, s]): Cloth => {
        // Two tails, open in front and behind, each with its own leg.
        const level = (y: number, wide: number, deep: number, front: number, back: number, z = -0.006): Level => {
          const [a, b] = [s * front, s * back];
          return { at: [0, y, z], wide, deep, from: Math.min(a, b), to: Math.max(a, b) };
        };
        return {
          colour: COAT,
          round: 9,
          levels: [
            level(1.115, 0.122, 0.102, 2, 180),
            level(1.03, 0.152, 0.118, 4, 181),
            level(0.93, 0.175, 0.138, 9, 181),
            level(0.82, 0.187, 0.156, 14, 179),
            level(0.7, 0.194, 0.172, 19, 177),
            level(0.56, 0.202, 0.188, 24, 174),
          ],
          weights: overThighs('hips', ['left_thigh', 'right_thigh'], 0.05),
        };
      }),
      // A belt, with its buckle among the knobs.
      {
        colour: LEATHER,
        round: 14,
        thick: 0.02,
        levels: [1.135, 1.095].map((y) => ({ at: [0, y, -0.007], wide: 0.127, deep: 0.107, from: -180, to: 180 })),
        weights: () => [
          ['hips', 0.5],
          ['waist', 0.5],
        ],
      },
      // A collar that is turned up, open in front.
      {
        colour: LAPEL,
        round: 10,
        levels: [
          { at: [0, 1.555, -0.012], wide: 0.088, deep: 0.09, from: 42, to: 318 },
          { at: [0, 1.505, -0.012], wide: 0.09, deep: 0.088, from: 34, to: 326 },
          { at: [0, 1.455, -0.016], wide: 0.128, deep: 0.1, from: 22, to: 338 },
        ],
        weights: () => [['breast', 1]],
      },
      ...SIDES.map(([, s]): Cloth => {
        const lapel = (y: number, inner: number, outer: number, z: number, deep: number): Level => ({
          at: [0, y, z],
          wide: 0.162,
          deep,
          from: Math.min(s * inner, s * outer),
          to: Math.max(s * inner, s * outer),
        });
        return {
          colour: LAPEL,
          round: 3,
          levels: [lapel(1.47, 14, 44, -0.018, 0.106), lapel(1.4, 9, 40, -0.018, 0.119), lapel(1.25, 1, 9, -0.014, 0.117)],
          weights: (_, down) => [
            ['breast', 1 - down],
            ['ribs', down],
          ],
        };
      }),
      // The scarf: round the neck, and one end hanging.
      {
        colour: SCARF,
        round: 12,
        thick: 0.03,
        levels: [
          { at: [0, 1.575, 0.004], wide: 0.062, deep: 0.066, from: -180, to: 180 },
          { at: [0, 1.55, 0.006], wide: 0.079, deep: 0.084, from: -180, to: 180 },
          { at: [0, 1.515, 0.004], wide: 0.08, deep: 0.084, from: -180, to: 180 },
        ],
        weights: (_, down) => [
          ['neck', 1 - down],
          ['breast', down],
        ],
      },
      {
        colour: SCARF,
        round: 3,
        thick: 0.018,
        levels: [
          { at: [0, 1.53, -0.004], wide: 0.12, deep: 0.1, from: 6, to: 24 },
          { at: [0, 1.42, -0.012], wide: 0.15, deep: 0.13, from: 7, to: 25 },
          { at: [0, 1.3, -0.012], wide: 0.15, deep: 0.128, from: 6, to: 25 },
        ],
        weights: (_, down) => [
          ['breast', 1 - 0.7 * down],
          ['ribs', 0.7 * down],
        ],
      },
      // The cap's peak.
      {
        colour: CAP,
        round: 8,
        levels: [
          { at: [0, 1.722, 0.006], wide: 0.09, deep: 0.107, from: -62, to: 62 },
          { at: [0, 1.7, 0.012], wide: 0.102, deep: 0.165, from: -56, to: 56 },
        ],
        weights: () => [['head', 1]],
      },
    ],
    knobs: [
      ...[1.335, 1.27, 1.205].flatMap((y) =>
        [0.045, -0.045].map((x) => ({
          at: [x, y, 0.088 - 0.06 * Math.max(0, 1.3 - y)] as Vec3,
          size: 0.009,
          colour: BRASS,
          weights: [['ribs', 1]] as const,
        })),
      ),
      { at: [0, 1.115, 0.1], size: 0.02, colour: BRASS, weights: [['waist', 1]] },
      { at: [0.022, 1.53, 0.09], size: 0.026, colour: SCARF, weights: [['breast', 1]] },
    ],
  });
  return { name: 'Wick', joints, flesh, axes: yAlongBone };
}
