import { cross, minus, vecAt } from '../math/vec';

/** Normals of a mesh, smooth over its vertices: the mean of the faces about each, larger ones counting more. */
export function normalsOf(positions: ArrayLike<number>, faces: readonly number[]): Float64Array {
  const out = new Float64Array(positions.length);
  for (let i = 0; i + 2 < faces.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => vecAt(positions, faces[i + k]));
    const normal = cross(minus(b, a), minus(c, a));
    for (let k = 0; k < 3; k++) for (let r = 0; r < 3; r++) out[faces[i + k] * 3 + r] += normal[r];
  }
  for (let v = 0; v < out.length; v += 3) {
    const n = Math.hypot(out[v], out[v + 1], out[v + 2]) || 1;
    for (let k = 0; k < 3; k++) out[v + k] /= n;
  }
  return out;
}
