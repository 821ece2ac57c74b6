import { setBasis, type Numbers, type Quat, type Vec3 } from '../math/quat';
import type { Gltf, GltfJson } from './gltf-container';

/** A node's transform when nothing moves it. */
export interface Rest {
  readonly translation: Vec3;
  readonly rotation: Quat;
  readonly scale: Vec3;
  /** Three columns and the place, when the node is given as a matrix. */
  readonly matrix: readonly number[] | null;
}

export function restOf(json: GltfJson, n: number): Rest {
  const { translation = [0, 0, 0], rotation = [0, 0, 0, 1], scale = [1, 1, 1], matrix } = json.nodes[n];
  const m = matrix && [0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14].map((i) => matrix[i]);
  const length = Math.hypot(...rotation) || 1;
  const [x, y, z, w] = rotation.map((v) => v / length);
  if (!m) return { translation, rotation: [x, y, z, w], scale, matrix: null };
  // An animated node may not have a matrix (glTF 2.0, 5.25); one that does is taken apart.
  const scaleOf = (c: number) => Math.hypot(m[c * 3], m[c * 3 + 1], m[c * 3 + 2]);
  const turn: [number, number, number, number] = [0, 0, 0, 1];
  rotationOf(turn, 0, m, 0);
  return { translation: [m[9], m[10], m[11]], rotation: turn, scale: [scaleOf(0), scaleOf(1), scaleOf(2)], matrix: m };
}

/** Column-major 3 × 3, then the place. */
export function compose(out: Float64Array, t: readonly number[], q: readonly number[], s: readonly number[]): void {
  const [x, y, z, w] = q;
  out[0] = (1 - 2 * (y * y + z * z)) * s[0];
  out[1] = 2 * (x * y + z * w) * s[0];
  out[2] = 2 * (x * z - y * w) * s[0];
  out[3] = 2 * (x * y - z * w) * s[1];
  out[4] = (1 - 2 * (x * x + z * z)) * s[1];
  out[5] = 2 * (y * z + x * w) * s[1];
  out[6] = 2 * (x * z + y * w) * s[2];
  out[7] = 2 * (y * z - x * w) * s[2];
  out[8] = (1 - 2 * (x * x + y * y)) * s[2];
  out[9] = t[0];
  out[10] = t[1];
  out[11] = t[2];
}

export function multiplyAffine(out: Float64Array, o: number, a: Float64Array, i: number, b: Float64Array): void {
  for (let c = 0; c < 4; c++)
    for (let r = 0; r < 3; r++) {
      out[o + c * 3 + r] = a[i + r] * b[c * 3] + a[i + 3 + r] * b[c * 3 + 1] + a[i + 6 + r] * b[c * 3 + 2] + (c === 3 ? a[i + 9 + r] : 0);
    }
}

/** The rotation of an affine map whose columns may be scaled, mirrored or a little sheared: its second axis, and the first made upright to it. */
export function rotationOf(out: Numbers, o: number, m: ArrayLike<number>, i: number): void {
  const n = Math.sqrt(m[i + 3] * m[i + 3] + m[i + 4] * m[i + 4] + m[i + 5] * m[i + 5]);
  const yx = m[i + 3] / n,
    yy = m[i + 4] / n,
    yz = m[i + 5] / n;
  const along = m[i] * yx + m[i + 1] * yy + m[i + 2] * yz;
  let xx = m[i] - along * yx,
    xy = m[i + 1] - along * yy,
    xz = m[i + 2] - along * yz;
  const l = Math.sqrt(xx * xx + xy * xy + xz * xz);
  xx /= l;
  xy /= l;
  xz /= l;
  setBasis(out, o, xx, xy, xz, yx, yy, yz, xy * yz - xz * yy, xz * yx - xx * yz, xx * yy - xy * yx);
}

/** World matrices of all nodes at rest, twelve numbers each. */
export function nodesAtRest({ json }: Gltf, parentOf: Int32Array): Float64Array {
  const world = new Float64Array(json.nodes.length * 12);
  const local = new Float64Array(12);
  const done = new Uint8Array(json.nodes.length);
  const place = (n: number) => {
    if (done[n]) return;
    done[n] = 1;
    const { matrix, translation, rotation, scale } = restOf(json, n);
    if (parentOf[n] >= 0) place(parentOf[n]);
    if (matrix) local.set(matrix);
    else compose(local, translation, rotation, scale);
    if (parentOf[n] < 0) world.set(local, n * 12);
    else multiplyAffine(world, n * 12, world, parentOf[n] * 12, local);
  };
  for (let n = 0; n < json.nodes.length; n++) place(n);
  return world;
}
