/** Numbers in a flat array; every function writes in place, from an index on, and allocates nothing. */
export type Numbers = Float32Array | Float64Array;

/** out = a · b; out may be either. */
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

/** out = a⁻¹ · b for unit quaternions. */
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

/** out = q · (x, y, z). */
export function rotate(out: Numbers, o: number, q: ArrayLike<number>, i: number, x: number, y: number, z: number): void {
  const qx = q[i],
    qy = q[i + 1],
    qz = q[i + 2],
    qw = q[i + 3];
  const tx = 2 * (qy * z - qz * y),
    ty = 2 * (qz * x - qx * z),
    tz = 2 * (qx * y - qy * x);
  out[o] = x + qw * tx + qy * tz - qz * ty;
  out[o + 1] = y + qw * ty + qz * tx - qx * tz;
  out[o + 2] = z + qw * tz + qx * ty - qy * tx;
}

export function normalize(q: Numbers, o: number): void {
  const n = 1 / Math.sqrt(q[o] * q[o] + q[o + 1] * q[o + 1] + q[o + 2] * q[o + 2] + q[o + 3] * q[o + 3]);
  q[o] *= n;
  q[o + 1] *= n;
  q[o + 2] *= n;
  q[o + 3] *= n;
}

/** out = a turn about +Y. */
export function heading(out: Numbers, o: number, radians: number): void {
  out[o] = 0;
  out[o + 1] = Math.sin(radians / 2);
  out[o + 2] = 0;
  out[o + 3] = Math.cos(radians / 2);
}

export const wrapAngle = (radians: number): number => radians - 2 * Math.PI * Math.round(radians / (2 * Math.PI));

/** out = a · b⁻¹ for unit quaternions. */
export function multiplyInverseRight(out: Numbers, o: number, a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): void {
  const ax = a[i],
    ay = a[i + 1],
    az = a[i + 2],
    aw = a[i + 3];
  const bx = -b[j],
    by = -b[j + 1],
    bz = -b[j + 2],
    bw = b[j + 3];
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** out = the shorter turn as its axis times its angle in radians. */
export function logInto(out: Numbers, o: number, q: ArrayLike<number>, i: number): void {
  const sign = q[i + 3] < 0 ? -1 : 1;
  const sine = Math.sqrt(q[i] * q[i] + q[i + 1] * q[i + 1] + q[i + 2] * q[i + 2]);
  const s = sine > 1e-9 ? (2 * Math.atan2(sine, sign * q[i + 3]) * sign) / sine : 2 * sign;
  out[o] = q[i] * s;
  out[o + 1] = q[i + 1] * s;
  out[o + 2] = q[i + 2] * s;
}

/** out = the turn about an axis by its length in radians. */
export function expInto(out: Numbers, o: number, v: ArrayLike<number>, i: number): void {
  const angle = Math.sqrt(v[i] * v[i] + v[i + 1] * v[i + 1] + v[i + 2] * v[i + 2]);
  const h = (angle * angle) / 4;
  // Most turns are small: there the first terms of the series are exact to the last digits.
  const isSmall = angle < 0.2;
  const s = isSmall ? 0.5 * (1 - (h / 6) * (1 - (h / 20) * (1 - h / 42))) : Math.sin(angle / 2) / angle;
  out[o] = v[i] * s;
  out[o + 1] = v[i + 1] * s;
  out[o + 2] = v[i + 2] * s;
  out[o + 3] = isSmall ? 1 - (h / 2) * (1 - (h / 12) * (1 - h / 30)) : Math.cos(angle / 2);
}
