import type { Vec3 } from '@lantern/motion';
import { SIDES, yAlongBone, type Build, type BuiltJoint } from './build';
import { fleshOf } from './people';

const COAT: Vec3 = [0.07, 0.13, 0.155];
const SCARF: Vec3 = [0.62, 0.37, 0.07];
const TROUSERS: Vec3 = [0.13, 0.1, 0.075];
const BOOTS: Vec3 = [0.035, 0.03, 0.028];
const SKIN: Vec3 = [0.6, 0.38, 0.26];
const HAT: Vec3 = [0.045, 0.05, 0.055];

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
        [-0.12, 0.1, 0.085, COAT],
        [0.0, 0.142, 0.112, COAT],
        [0.12, 0.137, 0.106, COAT],
        [0.25, 0.132, 0.1, COAT],
        [0.42, 0.146, 0.105, COAT],
        [0.58, 0.163, 0.11, COAT],
        [0.7, 0.165, 0.104, COAT],
        [0.79, 0.125, 0.086, COAT],
        [0.83, 0.085, 0.08, SCARF],
        [0.9, 0.076, 0.078, SCARF],
        [0.94, 0.05, 0.054, SKIN],
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
        [-0.02, 0.058, 0.066, SKIN, 0.024],
        [0.14, 0.068, 0.084, SKIN, 0.016],
        [0.36, 0.076, 0.094, SKIN, 0.01],
        [0.52, 0.079, 0.096, SKIN, 0.006],
        [0.53, 0.125, 0.14, HAT, 0.006],
        [0.57, 0.122, 0.138, HAT, 0.006],
        [0.575, 0.085, 0.101, HAT, 0.006],
        [0.58, 0.083, 0.099, SCARF, 0.006],
        [0.66, 0.082, 0.098, SCARF, 0.006],
        [0.662, 0.082, 0.098, HAT, 0.006],
        [0.67, 0.081, 0.097, HAT, 0.006],
        [0.92, 0.076, 0.09, HAT, 0.006],
        [1.0, 0.06, 0.07, HAT, 0.006],
      ],
    },
    sides: SIDES.map(([side]) => ({
      leg: [`${side}_thigh`, `${side}_shin`],
      legSections: [
        [-0.08, 0.05, 0.055, COAT],
        [0.0, 0.078, 0.088, COAT],
        [0.16, 0.082, 0.09, COAT],
        [0.2, 0.081, 0.088, TROUSERS],
        [0.3, 0.074, 0.08, TROUSERS],
        [0.47, 0.058, 0.064, TROUSERS],
        [0.54, 0.055, 0.06, TROUSERS],
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
        [0.1, 0.06, 0.05, COAT],
        [0.2, 0.066, 0.06, COAT],
        [0.3, 0.055, 0.058, COAT],
        [0.45, 0.046, 0.049, COAT],
        [0.6, 0.042, 0.044, COAT],
        [0.68, 0.042, 0.043, COAT],
        [0.82, 0.042, 0.042, COAT],
        [0.96, 0.04, 0.036, COAT],
        [0.97, 0.028, 0.024, SKIN],
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
    skirt: {
      hips: 'hips',
      thighs: ['left_thigh', 'right_thigh'],
      from: 1.09,
      to: 0.6,
      sections: [
        [0.128, 0.096],
        [0.176, 0.14],
        [0.19, 0.15],
        [0.199, 0.162],
        [0.204, 0.168],
        [0.207, 0.172],
      ],
      colour: COAT,
    },
  });
  return { name: 'Wick', joints, flesh, axes: yAlongBone };
}
