/** A surface as triangles: three numbers a place. */
export interface Surface {
  readonly positions: number[];
  readonly indices: number[];
}

/** A field sampled on a grid: `values[x + size[0] · (y + size[1] · z)]` at `low + cell · (x, y, z)`. */
export interface Field {
  readonly values: Float32Array;
  readonly size: readonly [number, number, number];
  readonly low: readonly [number, number, number];
  readonly cell: number;
}

/**
 * The surface on which a field is 0, its inside where the field is below: one vertex to a cell that the surface goes through, at the mean of
 * where it crosses the cell's edges. Smooth where the field is, and closed where it stays inside of the grid.
 *
 * Source: Gibson, *Constrained Elastic Surface Nets*, 1998.
 *
 * @example
 * // A ball of radius 1, sampled on 41³ places: every vertex lies on it.
 * const at = (n) => -2 + 0.1 * n;
 * const values = Float32Array.from({ length: 41 ** 3 }, (_, i) => Math.hypot(at(i % 41), at(Math.floor(i / 41) % 41), at(Math.floor(i / 1681))) - 1);
 * const { positions } = surfaceNets({ values, size: [41, 41, 41], low: [-2, -2, -2], cell: 0.1 });
 * Math.abs(Math.hypot(positions[0], positions[1], positions[2]) - 1) < 0.02; // true
 */
export function surfaceNets({ values, size, low, cell }: Field): Surface {
  const [nx, ny, nz] = size;
  const strides = [1, nx, nx * ny];
  const surface: Surface = { positions: [], indices: [] };
  const vertexOf = new Int32Array(values.length).fill(-1);
  const corner = (i: number, c: number) => i + (c & 1) * strides[0] + ((c >> 1) & 1) * strides[1] + ((c >> 2) & 1) * strides[2];
  for (let z = 0; z + 1 < nz; z++)
    for (let y = 0; y + 1 < ny; y++)
      for (let x = 0; x + 1 < nx; x++) {
        const i = x + y * strides[1] + z * strides[2];
        const at = crossing(values, i, corner);
        if (!at) continue;
        vertexOf[i] = surface.positions.length / 3;
        surface.positions.push(low[0] + (x + at[0]) * cell, low[1] + (y + at[1]) * cell, low[2] + (z + at[2]) * cell);
      }
  addFaces(surface, values, vertexOf, size, strides);
  return surface;
}

/** The mean place at which the surface crosses the edges of a cell, in shares of the cell; null where it does not. */
function crossing(values: Float32Array, i: number, corner: (i: number, c: number) => number): [number, number, number] | null {
  let inside = 0;
  for (let c = 0; c < 8; c++) if (values[corner(i, c)] < 0) inside++;
  if (inside === 0 || inside === 8) return null;
  const sum: [number, number, number] = [0, 0, 0];
  let count = 0;
  for (let c = 0; c < 8; c++)
    for (let axis = 0; axis < 3; axis++) {
      if ((c >> axis) & 1) continue;
      const [a, b] = [values[corner(i, c)], values[corner(i, c | (1 << axis))]];
      if (a < 0 === b < 0) continue;
      const t = a / (a - b);
      for (let k = 0; k < 3; k++) sum[k] += k === axis ? t : (c >> k) & 1;
      count++;
    }
  return [sum[0] / count, sum[1] / count, sum[2] / count];
}

/** Where the surface crosses an edge of the grid, the four cells about it make two triangles, which face outwards. */
function addFaces(
  { indices }: Surface,
  values: Float32Array,
  vertexOf: Int32Array,
  size: readonly number[],
  strides: readonly number[],
): void {
  const [nx, ny, nz] = size;
  for (let z = 1; z + 1 < nz; z++)
    for (let y = 1; y + 1 < ny; y++)
      for (let x = 1; x + 1 < nx; x++) {
        const i = x + y * strides[1] + z * strides[2];
        for (let axis = 0; axis < 3; axis++) {
          const [a, b] = [values[i], values[i + strides[axis]]];
          if (a < 0 === b < 0) continue;
          const [u, v] = [strides[(axis + 1) % 3], strides[(axis + 2) % 3]];
          const [p, q, r, s] = [vertexOf[i - u - v], vertexOf[i - v], vertexOf[i], vertexOf[i - u]];
          if (a < 0) indices.push(p, q, r, p, r, s);
          else indices.push(p, r, q, p, s, r);
        }
      }
}
