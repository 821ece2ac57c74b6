import { fromAxisAngle, rotate, type Vec3 } from './quat';

// Small vectors for what is worked out once, not frame by frame: each function returns a new triple.

export const plus = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
export const inner = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const norm = (a: Vec3): number => Math.sqrt(inner(a, a));
/**
 * Of length 1; a zero vector stays one.
 *
 * @example
 * unit([0, 3, 4]); // [0, 0.6, 0.8]
 */
export const unit = (a: Vec3): Vec3 => times(a, 1 / (norm(a) || 1));
export const mixed = (a: Vec3, b: Vec3, t: number): Vec3 => plus(times(a, 1 - t), times(b, t));
/** The part of `a` at right angles to a unit vector. */
export const across = (a: Vec3, axis: Vec3): Vec3 => minus(a, times(axis, inner(a, axis)));
/** The triple at an index of a flat array. */
export const vecAt = (values: ArrayLike<number>, i: number): Vec3 => [values[i * 3], values[i * 3 + 1], values[i * 3 + 2]];

/**
 * A vector turned by the quaternion at an index of a flat array.
 *
 * @example
 * turned(fromHeading(Math.PI / 2), 0, [0, 0, 1]); // [1, 0, 0]
 */
export function turned(q: ArrayLike<number>, i: number, v: Vec3): Vec3 {
  const out = [0, 0, 0];
  rotate(out, 0, q, i, v, 0);
  return [out[0], out[1], out[2]];
}

/** The shortest turn from one direction to another; opposite ones are turned about any axis at right angles. */
export function shortestTurn(a: Vec3, b: Vec3): [number, number, number, number] {
  const axis = cross(a, b);
  const sine = norm(axis);
  const cosine = inner(a, b);
  if (sine > 1e-12) return fromAxisAngle(unit(axis), Math.atan2(sine, cosine));
  if (cosine >= 0) return [0, 0, 0, 1];
  return fromAxisAngle(unit(cross(a, Math.abs(a[0]) < 0.9 * norm(a) ? [1, 0, 0] : [0, 1, 0])), Math.PI);
}
