/**
 * Quaternions `x y z w` on flat arrays: each function reads and writes four numbers at an index, so that a
 * whole motion is processed without allocating per frame. All are unit quaternions unless said otherwise.
 */
export type Numbers = Float32Array | Float64Array | number[];

export type Quat = readonly [number, number, number, number];
export type Vec3 = readonly [number, number, number];

export const IDENTITY: Quat = [0, 0, 0, 1];

/**
 * out ← a · b (apply b first, then a). `out` may be `a` or `b`.
 *
 * @example
 * const half = fromHeading(Math.PI / 4);
 * const out = [0, 0, 0, 0];
 * multiply(out, 0, half, 0, half, 0);
 * angleBetween(out, 0, fromHeading(Math.PI / 2), 0); // 0
 */
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

/**
 * out ← a⁻¹ · b, for unit a.
 *
 * @example
 * const q = fromHeading(1);
 * const out = [0, 0, 0, 0];
 * multiplyInverse(out, 0, q, 0, q, 0);
 * out; // [0, 0, 0, 1]
 */
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

/**
 * out ← q rotates v. `out` may be `v`.
 *
 * @example
 * const out = [0, 0, 0];
 * rotate(out, 0, fromHeading(Math.PI / 2), 0, [0, 0, 1], 0);
 * out; // [1, 0, 0]
 */
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
  const n = Math.sqrt(q[i] * q[i] + q[i + 1] * q[i + 1] + q[i + 2] * q[i + 2] + q[i + 3] * q[i + 3]);
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

/**
 * @example
 * fromAxisAngle([0, 1, 0], Math.PI); // [0, 1, 0, 0]
 */
export function fromAxisAngle(axis: Vec3, radians: number): [number, number, number, number] {
  const s = Math.sin(radians / 2) / (Math.sqrt(axis[0] * axis[0] + axis[1] * axis[1] + axis[2] * axis[2]) || 1);
  return [axis[0] * s, axis[1] * s, axis[2] * s, Math.cos(radians / 2)];
}

/**
 * The turn about +Y by `radians`; positive turns left.
 *
 * @example
 * fromHeading(Math.PI / 2); // [0, 0.707, 0, 0.707]
 */
export function fromHeading(radians: number): [number, number, number, number] {
  return [0, Math.sin(radians / 2), 0, Math.cos(radians / 2)];
}

/**
 * Shortest way from a to b, at t in 0..1.
 *
 * @example
 * const out = [0, 0, 0, 0];
 * slerp(out, 0, [0, 0, 0, 1], 0, fromHeading(1), 0, 0.5);
 * angleBetween(out, 0, fromHeading(0.5), 0); // 0
 */
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
  const s = Math.sqrt(x * x + y * y + z * z);
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
  const angle = Math.sqrt(x * x + y * y + z * z);
  const k = angle < 1e-9 ? 0.5 : Math.sin(angle / 2) / angle;
  out[o] = x * k;
  out[o + 1] = y * k;
  out[o + 2] = z * k;
  out[o + 3] = Math.cos(angle / 2);
}

/**
 * The angle between two rotations, radians.
 *
 * @example
 * angleBetween([0, 0, 0, 1], 0, fromHeading(0.5), 0); // 0.5
 */
export function angleBetween(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): number {
  const sign = dot(a, i, b, j) < 0 ? -1 : 1;
  const dx = a[i] - sign * b[j],
    dy = a[i + 1] - sign * b[j + 1];
  const dz = a[i + 2] - sign * b[j + 2],
    dw = a[i + 3] - sign * b[j + 3];
  // From the chord, which stays exact for tiny angles where the arc cosine of the dot product does not.
  return 4 * Math.asin(Math.min(1, Math.sqrt(dx * dx + dy * dy + dz * dz + dw * dw) / 2));
}

/**
 * Flips signs so that every rotation of a channel has q·q′ ≥ 0 with the frame before. `stride` numbers apart.
 *
 * @example
 * const turns = [0, 0, 0, 1, 0, 0, 0, -1];
 * makeContinuous(turns, 0, 2, 4);
 * turns.slice(4); // [0, 0, 0, 1]
 */
export function makeContinuous(q: Numbers, first: number, count: number, stride: number): void {
  for (let n = 1, at = first + stride; n < count; n++, at += stride) {
    if (dot(q, at - stride, q, at) < 0) for (let k = 0; k < 4; k++) q[at + k] = -q[at + k];
  }
}

/**
 * The quaternion of a rotation matrix given by its columns (unit, right-handed).
 *
 * @example
 * fromBasis([1, 0, 0], [0, 1, 0], [0, 0, 1]); // [0, 0, 0, 1]
 */
export function fromBasis(x: Vec3, y: Vec3, z: Vec3): [number, number, number, number] {
  const out: [number, number, number, number] = [0, 0, 0, 1];
  setBasis(out, 0, ...x, ...y, ...z);
  return out;
}

/** The same, written into an array: the columns x, y and z of the rotation. */
export function setBasis(
  out: Numbers,
  o: number,
  xx: number,
  xy: number,
  xz: number,
  yx: number,
  yy: number,
  yz: number,
  zx: number,
  zy: number,
  zz: number,
): void {
  const trace = xx + yy + zz;
  const largest = trace > 0 ? 3 : xx > yy && xx > zz ? 0 : yy > zz ? 1 : 2;
  const s = Math.sqrt(largest === 3 ? trace + 1 : 1 + 2 * [xx, yy, zz][largest] - trace) * 2;
  out[o] = largest === 0 ? s / 4 : (largest === 3 ? yz - zy : largest === 1 ? yx + xy : zx + xz) / s;
  out[o + 1] = largest === 1 ? s / 4 : (largest === 3 ? zx - xz : largest === 0 ? yx + xy : zy + yz) / s;
  out[o + 2] = largest === 2 ? s / 4 : (largest === 3 ? xy - yx : largest === 0 ? zx + xz : zy + yz) / s;
  out[o + 3] = largest === 3 ? s / 4 : (largest === 0 ? yz - zy : largest === 1 ? zx - xz : xy - yx) / s;
}
