/** A place on the floor. */
export type Place2 = readonly [x: number, z: number];

/**
 * The corners of the narrowest convex outline round some places, one after the other (Andrew's monotone chain, 1979).
 */
export function convexHull(places: readonly Place2[]): Place2[] {
  const sorted = [...places].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  if (sorted.length < 3) return sorted;
  const half = (all: readonly Place2[]): Place2[] => {
    const out: Place2[] = [];
    for (const p of all) {
      while (out.length >= 2 && turnOf(out[out.length - 2], out[out.length - 1], p) <= 0) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/**
 * How far a place is inside of a convex outline (positive) or outside of it (negative).
 *
 * @param hull its corners as `convexHull` gives them
 */
export function insideBy(hull: readonly Place2[], p: Place2): number {
  let least = Infinity;
  let isInside = hull.length > 2;
  hull.forEach((a, i) => {
    const b = hull[(i + 1) % hull.length];
    if (turnOf(a, b, p) < 0) isInside = false;
    least = Math.min(least, toSegment(a, b, p));
  });
  return isInside ? least : -least;
}

/** Above nothing where the way over three places turns left. */
const turnOf = (a: Place2, b: Place2, c: Place2): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

function toSegment(a: Place2, b: Place2, p: Place2): number {
  const [dx, dz] = [b[0] - a[0], b[1] - a[1]];
  const length = dx * dx + dz * dz;
  const t = length > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dz) / length)) : 0;
  return Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dz);
}
