import type { Side } from '@lantern/motion';
import type { Figure } from './figure';
import type { Pelvis } from './pelvis';

/** Where the hip joint is, by fine sample: the pelvis turned by heading and axial, rolled by list, tilted forward. */
export function hipJoint(figure: Figure, hips: Omit<Pelvis, 'tables'>, side: Side) {
  const sign = side === 'left' ? 1 : -1;
  return (i: number): [number, number, number] => {
    const turn = hips.heading[i] + hips.axial[i];
    const roll = hips.list[i];
    // Local offset (±w, −d, 0), tilted, then rolled about forward with the left side down for a positive list.
    const below = figure.hipDrop * Math.cos(hips.tilt[i]);
    const behind = figure.hipDrop * Math.sin(hips.tilt[i]);
    const across = figure.hipHalfWidth * sign * Math.cos(roll) - below * Math.sin(roll);
    const up = -figure.hipHalfWidth * sign * Math.sin(roll) - below * Math.cos(roll);
    return [
      hips.x[i] + Math.cos(turn) * across - Math.sin(turn) * behind,
      hips.y[i] + up,
      hips.z[i] - Math.sin(turn) * across - Math.cos(turn) * behind,
    ];
  };
}
