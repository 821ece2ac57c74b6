import { fromAxisAngle, multiply, slerp, type Vec3 } from '@lantern/motion';

/** A rotation that may be written to. */
export type Q = [number, number, number, number];

const X: Vec3 = [1, 0, 0];
const Y: Vec3 = [0, 1, 0];
const Z: Vec3 = [0, 0, 1];
export const aboutX = (radians: number): Q => fromAxisAngle(X, radians);
export const aboutY = (radians: number): Q => fromAxisAngle(Y, radians);
export const aboutZ = (radians: number): Q => fromAxisAngle(Z, radians);

export function chain(...rotations: readonly Q[]): Q {
  const out: Q = [0, 0, 0, 1];
  for (const q of rotations) multiply(out, 0, out, 0, q, 0);
  return out;
}

export function between(a: Q, b: Q, t: number): Q {
  const out: Q = [0, 0, 0, 1];
  slerp(out, 0, a, 0, b, 0, t);
  return out;
}
