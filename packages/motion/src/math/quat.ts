/**
 * Quaternions `x y z w` on flat arrays: each function reads and writes four numbers at an index, so that a
 * whole motion is processed without allocating per frame. All are unit quaternions unless said otherwise.
 */
export type Numbers = Float32Array | Float64Array | number[];

export type Quat = readonly [number, number, number, number];
export type Vec3 = readonly [number, number, number];

export const IDENTITY: Quat = [0, 0, 0, 1];

/** out ← a · b (apply b first, then a). `out` may be `a` or `b`. */
export function multiply(out: Numbers, o: number, a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): void {
  const ax = a[i],
    ay = a[i + 1],
    az = a[i + 2],
    aw = a[i + 3];
  const bx = b[j],
    by = b[j + 1],
    bz = b[j + 2],
    bw = b[j + 3];
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** out ← a⁻¹ · b, for unit a. */
export function multiplyInverse(out: Numbers, o: number, a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): void {
  const ax = -a[i],
    ay = -a[i + 1],
    az = -a[i + 2],
    aw = a[i + 3];
  const bx = b[j],
    by = b[j + 1],
    bz = b[j + 2],
    bw = b[j + 3];
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** out ← q rotates v. `out` may be `v`. */
export function rotate(out: Numbers, o: number, q: ArrayLike<number>, i: number, v: ArrayLike<number>, j: number): void {
  const x = q[i],
    y = q[i + 1],
    z = q[i + 2],
    w = q[i + 3];
  const vx = v[j],
    vy = v[j + 1],
    vz = v[j + 2];
  const tx = 2 * (y * vz - z * vy);
  const ty = 2 * (z * vx - x * vz);
  const tz = 2 * (x * vy - y * vx);
  out[o] = vx + w * tx + y * tz - z * ty;
  out[o + 1] = vy + w * ty + z * tx - x * tz;
  out[o + 2] = vz + w * tz + x * ty - y * tx;
}

export function normalize(q: Numbers, i: number): void {
  const n = Math.hypot(q[i], q[i + 1], q[i + 2], q[i + 3]);
  if (n === 0) {
    q[i + 3] = 1;
    return;
  }
  q[i] /= n;
  q[i + 1] /= n;
  q[i + 2] /= n;
  q[i + 3] /= n;
}

export function dot(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): number {
  return a[i] * b[j] + a[i + 1] * b[j + 1] + a[i + 2] * b[j + 2] + a[i + 3] * b[j + 3];
}

export function fromAxisAngle(axis: Vec3, radians: number): [number, number, number, number] {
  const s = Math.sin(radians / 2) / (Math.hypot(axis[0], axis[1], axis[2]) || 1);
  return [axis[0] * s, axis[1] * s, axis[2] * s, Math.cos(radians / 2)];
}

/** The turn about +Y by `radians`; positive turns left. */
export function fromHeading(radians: number): [number, number, number, number] {
  return [0, Math.sin(radians / 2), 0, Math.cos(radians / 2)];
}

/** Shortest way from a to b, at t in 0..1. */
export function slerp(out: Numbers, o: number, a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number, t: number): void {
  let d = dot(a, i, b, j);
  const sign = d < 0 ? -1 : 1;
  d *= sign;
  let s = 1 - t;
  let e = t * sign;
  if (d < 0.9999995) {
    const angle = Math.acos(Math.min(1, d));
    const sin = Math.sin(angle);
    s = Math.sin((1 - t) * angle) / sin;
    e = (Math.sin(t * angle) / sin) * sign;
  }
  for (let k = 0; k < 4; k++) out[o + k] = a[i + k] * s + b[j + k] * e;
  normalize(out, o);
}

/** The rotation vector (axis × radians) of a unit quaternion; shortest way. */
export function log(out: Numbers, o: number, q: ArrayLike<number>, i: number): void {
  const sign = q[i + 3] < 0 ? -1 : 1;
  const x = q[i] * sign,
    y = q[i + 1] * sign,
    z = q[i + 2] * sign;
  const s = Math.hypot(x, y, z);
  const k = s < 1e-9 ? 2 : (2 * Math.atan2(s, q[i + 3] * sign)) / s;
  out[o] = x * k;
  out[o + 1] = y * k;
  out[o + 2] = z * k;
}

/** The unit quaternion of a rotation vector. */
export function exp(out: Numbers, o: number, v: ArrayLike<number>, i: number): void {
  const x = v[i],
    y = v[i + 1],
    z = v[i + 2];
  const angle = Math.hypot(x, y, z);
  const k = angle < 1e-9 ? 0.5 : Math.sin(angle / 2) / angle;
  out[o] = x * k;
  out[o + 1] = y * k;
  out[o + 2] = z * k;
  out[o + 3] = Math.cos(angle / 2);
}

/** The angle between two rotations, radians. */
export function angleBetween(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): number {
  const sign = dot(a, i, b, j) < 0 ? -1 : 1;
  const dx = a[i] - sign * b[j],
    dy = a[i + 1] - sign * b[j + 1];
  const dz = a[i + 2] - sign * b[j + 2],
    dw = a[i + 3] - sign * b[j + 3];
  // From the chord, which stays exact for tiny angles where the arc cosine of the dot product does not.
  return 4 * Math.asin(Math.min(1, Math.hypot(dx, dy, dz, dw) / 2));
}

/** Flips signs so that every rotation of a channel has q·q′ ≥ 0 with the frame before. `stride` numbers apart. */
export function makeContinuous(q: Numbers, first: number, count: number, stride: number): void {
  for (let n = 1, at = first + stride; n < count; n++, at += stride) {
    if (dot(q, at - stride, q, at) < 0) for (let k = 0; k < 4; k++) q[at + k] = -q[at + k];
  }
}

/** The quaternion of a rotation matrix given by its columns (unit, right-handed). */
export function fromBasis(x: Vec3, y: Vec3, z: Vec3): [number, number, number, number] {
  const trace = x[0] + y[1] + z[2];
  if (trace > 0) {
    const s = Math.sqrt(trace + 1) * 2;
    return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4];
  }
  if (x[0] > y[1] && x[0] > z[2]) {
    const s = Math.sqrt(1 + x[0] - y[1] - z[2]) * 2;
    return [s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s];
  }
  if (y[1] > z[2]) {
    const s = Math.sqrt(1 + y[1] - x[0] - z[2]) * 2;
    return [(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s];
  }
  const s = Math.sqrt(1 + z[2] - x[0] - y[1]) * 2;
  return [(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s];
}
