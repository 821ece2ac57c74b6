import type { Vec3 } from './quat';
import { inner, minus, plus, times } from './vec';

/** Squares of lengths below this are none, square metres. */
const EPSILON = 1e-12;
/** Stretches whose sine of the angle between them is below the root of this are parallel. */
const PARALLEL = 1e-12;

const clamp = (t: number): number => Math.min(1, Math.max(0, t));

/** The nearest places of two stretches of line, and their shares along them (Ericson, *Real-Time Collision Detection*, 2005). */
export function nearestOfSegments(p: Vec3, q: Vec3, r: Vec3, s: Vec3): { readonly a: Vec3; readonly b: Vec3; readonly t: number } {
  const [d, e, w] = [minus(q, p), minus(s, r), minus(p, r)];
  const [dd, ee, de, ew, dw] = [inner(d, d), inner(e, e), inner(d, e), inner(e, w), inner(d, w)];
  const along = (u: number) => (dd > EPSILON ? clamp((de * u - dw) / dd) : 0);
  // One that is a point is compared with the other by itself.
  if (ee <= EPSILON) {
    const t = along(0);
    return { a: plus(p, times(d, t)), b: r, t };
  }
  const flat = dd * ee - de * de;
  const first = flat > PARALLEL * dd * ee ? clamp((de * ew - dw * ee) / flat) : 0;
  const u = clamp((de * first + ew) / ee);
  // Also where they are parallel, or so short that it cannot be told: from the place on the other to the nearest on this one.
  const t = along(u);
  return { a: plus(p, times(d, t)), b: plus(r, times(e, u)), t };
}
