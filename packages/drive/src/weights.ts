/** Where the clips of a field stand, two numbers each, and the triangles between them. With one input the second number is 0. */
export interface FieldPoints {
  readonly points: ArrayLike<number>;
  /** Three indices a triangle; none for a field of one input. */
  readonly triangles: ArrayLike<number>;
  /** What a unit of either input counts when distances are compared. */
  readonly scale: readonly [number, number];
}

/**
 * In place: the weights of all clips for a point: those of the triangle (or the segment) round it; outside, of the nearest place on the edge.
 *
 * @returns 0 inside; outside, how far it is from the field, in scaled units
 */
export function fieldWeights(weights: Float64Array, { points, triangles, scale }: FieldPoints, x: number, y: number): number {
  weights.fill(0);
  const count = weights.length;
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t],
      b = triangles[t + 1],
      c = triangles[t + 2];
    const ax = points[a * 2],
      ay = points[a * 2 + 1];
    const bx = points[b * 2] - ax,
      by = points[b * 2 + 1] - ay,
      cx = points[c * 2] - ax,
      cy = points[c * 2 + 1] - ay;
    const area = bx * cy - by * cx;
    if (area === 0) continue;
    const v = ((x - ax) * cy - (y - ay) * cx) / area;
    const w = (bx * (y - ay) - by * (x - ax)) / area;
    if (v >= -1e-9 && w >= -1e-9 && v + w <= 1 + 1e-9) {
      weights[a] = Math.max(0, 1 - v - w);
      weights[b] += Math.max(0, v);
      weights[c] += Math.max(0, w);
      return 0;
    }
  }
  // Outside: the nearest place on any edge; with one input, or two clips, that is all there is.
  let best = Infinity,
    from = 0,
    to = 0,
    share = 0;
  for (let a = 0; a < count; a++) {
    for (let b = count === 1 ? a : a + 1; b < count; b++) {
      if (triangles.length > 0 && !isEdge(triangles, a, b)) continue;
      const ax = points[a * 2] * scale[0],
        ay = points[a * 2 + 1] * scale[1];
      const dx = points[b * 2] * scale[0] - ax,
        dy = points[b * 2 + 1] * scale[1] - ay;
      const px = x * scale[0] - ax,
        py = y * scale[1] - ay;
      const length = dx * dx + dy * dy;
      const u = length > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / length)) : 0;
      const off = (px - u * dx) ** 2 + (py - u * dy) ** 2;
      // Without triangles a segment must be between neighbours: the shortest one that holds the point.
      const cost = off + (triangles.length === 0 ? 1e-9 * length : 0);
      if (cost < best) {
        best = cost;
        from = a;
        to = b;
        share = u;
      }
    }
  }
  weights[from] += 1 - share;
  weights[to] += share;
  return Math.sqrt(Math.max(0, best));
}

function isEdge(triangles: ArrayLike<number>, a: number, b: number): boolean {
  for (let t = 0; t < triangles.length; t += 3) {
    let hits = 0;
    for (let k = 0; k < 3; k++) if (triangles[t + k] === a || triangles[t + k] === b) hits++;
    if (hits === 2) return true;
  }
  return false;
}
