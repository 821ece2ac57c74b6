import { rotate, type Vec3 } from '../math/quat';
import { minus, vecAt } from '../math/vec';
import type { FixedPoint } from '../model/fixed-point';

/** The point of a joint that is at a place of the world in a pose. */
export function fixedAt(
  { positions, rotations }: { positions: ArrayLike<number>; rotations: ArrayLike<number> },
  joint: number,
  place: Vec3,
): FixedPoint {
  const local: [number, number, number] = [0, 0, 0];
  const back = [-rotations[joint * 4], -rotations[joint * 4 + 1], -rotations[joint * 4 + 2], rotations[joint * 4 + 3]];
  rotate(local, 0, back, 0, minus(place, vecAt(positions, joint)), 0);
  return { joint, local };
}
