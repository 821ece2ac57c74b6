import type { Body } from '../model/body';
import type { Globals } from '../model/kinematics';

/** Thigh and shin together, the mean of both legs, in the motion's unit. */
export function legLength({ positions }: Globals, { legs }: Body): number {
  const between = (a: number, b: number) =>
    Math.hypot(
      positions[a * 3] - positions[b * 3],
      positions[a * 3 + 1] - positions[b * 3 + 1],
      positions[a * 3 + 2] - positions[b * 3 + 2],
    );
  return (['left', 'right'] as const).reduce((sum, side) => {
    const { hip, knee, ankle } = legs[side];
    return sum + (between(hip, knee) + between(knee, ankle)) / 2;
  }, 0);
}
