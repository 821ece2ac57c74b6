import { fromHeading, multiply } from '../math/quat';
import type { Motion } from './motion';

/** A turn about +Y by `turn` radians, then a shift on the floor (and, by choice, up), metres. */
export interface FloorTransform {
  readonly turn: number;
  readonly x: number;
  readonly z: number;
  readonly y?: number;
}

/**
 * A place moved: three numbers of `p` from `i` on, into `out` from `o` on.
 *
 * @example
 * const out = [0, 0, 0];
 * movePoint(out, 0, { turn: Math.PI / 2, x: 1, z: 0 }, [0, 0.9, 2], 0);
 * out; // [3, 0.9, 0]
 */
export function movePoint(
  out: Float32Array | Float64Array | number[],
  o: number,
  { turn, x, z, y }: FloorTransform,
  p: ArrayLike<number>,
  i: number,
): void {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [px, py, pz] = [p[i], p[i + 1], p[i + 2]];
  out[o] = c * px + s * pz + x;
  out[o + 1] = py + (y ?? 0);
  out[o + 2] = c * pz - s * px + z;
}

/**
 * The transform that leads from one place and heading to another.
 *
 * @example
 * leading({ x: 0, z: 1 }, { x: 2, z: 1 }, 0); // { turn: 0, x: 2, z: 0 }
 */
export function leading(
  from: { readonly x: number; readonly z: number; readonly y?: number },
  to: { readonly x: number; readonly z: number; readonly y?: number },
  turn: number,
): FloorTransform {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const y = from.y === undefined || to.y === undefined ? undefined : to.y - from.y;
  return { turn, x: to.x - (c * from.x + s * from.z), z: to.z - (c * from.z - s * from.x), ...(y !== undefined && { y }) };
}

/**
 * In place: moves frames `from` to `to` (excluded) of a motion.
 *
 * @example
 * const moved = copyMotion(motion);
 * moveFrames(moved, { turn: 0, x: 2, z: 0 }, 10);
 * [0, 10].map((frame) => moved.rootPositions[frame * 3] - motion.rootPositions[frame * 3]); // [0, 2]
 */
export function moveFrames(motion: Motion, transform: FloorTransform, from = 0, to = motion.frames): void {
  const joints = motion.skeleton.joints.length;
  const turn = fromHeading(transform.turn);
  const { rootPositions: p, rotations } = motion;
  for (let f = from; f < to; f++) {
    movePoint(p, f * 3, transform, p, f * 3);
    multiply(rotations, f * joints * 4, turn, 0, rotations, f * joints * 4);
  }
}

/** The transform that undoes another. */
export const invert = ({ turn, x, z, y }: FloorTransform): FloorTransform =>
  leading({ x, z, y }, { x: 0, z: 0, y: y === undefined ? undefined : 0 }, -turn);

/** The transform that does what another does a whole number of times; less than none is back. */
export function repeated(transform: FloorTransform, times: number): FloorTransform {
  const once = times < 0 ? invert(transform) : transform;
  const at = [0, 0, 0];
  let turn = 0;
  for (let k = 0; k < Math.abs(times); k++) {
    movePoint(at, 0, once, at, 0);
    turn += once.turn;
  }
  return { turn, x: at[0], z: at[2], y: at[1] };
}
