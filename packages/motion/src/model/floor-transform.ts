import { fromHeading, multiply } from '../math/quat';
import type { Motion } from './motion';

/** A turn about +Y by `turn` radians, then a shift on the floor (and, by choice, up), metres. */
export interface FloorTransform {
  readonly turn: number;
  readonly x: number;
  readonly z: number;
  readonly y?: number;
}

/** In place: moves frames `from` to `to` (excluded) of a motion. */
export function moveFrames(motion: Motion, transform: FloorTransform, from = 0, to = motion.frames): void {
  const joints = motion.skeleton.joints.length;
  const turn = fromHeading(transform.turn);
  const c = Math.cos(transform.turn);
  const s = Math.sin(transform.turn);
  for (let f = from; f < to; f++) {
    const x = motion.rootPositions[f * 3];
    const z = motion.rootPositions[f * 3 + 2];
    motion.rootPositions[f * 3] = c * x + s * z + transform.x;
    motion.rootPositions[f * 3 + 1] += transform.y ?? 0;
    motion.rootPositions[f * 3 + 2] = c * z - s * x + transform.z;
    multiply(motion.rotations, f * joints * 4, turn, 0, motion.rotations, f * joints * 4);
  }
}

/** The transform that undoes another. */
export function invert({ turn, x, z, y }: FloorTransform): FloorTransform {
  const c = Math.cos(-turn);
  const s = Math.sin(-turn);
  return { turn: -turn, x: -(c * x + s * z), z: -(c * z - s * x), y: y === undefined ? undefined : -y };
}
