import type { Vec3 } from './quat';
import { inner, minus, plus, times } from './vec';

const clamp = (t: number): number => Math.min(1, Math.max(0, t));

/** The nearest places of two stretches of line, and their shares along them (Ericson, *Real-Time Collision Detection*, 2005). */
export function nearestOfSegments(p: Vec3, q: Vec3, r: Vec3, s: Vec3): { readonly a: Vec3; readonly b: Vec3; readonly t: number } {
  const [d, e, w] = [minus(q, p), minus(s, r), minus(p, r)];
  const [dd, ee, de, ew, dw] = [inner(d, d), inner(e, e), inner(d, e), inner(e, w), inner(d, w)];
  const flat = dd * ee - de * de;
  let t = flat > 1e-12 ? clamp((de * ew - dw * ee) / flat) : 0;
  let u = ee > 1e-12 ? (de * t + ew) / ee : 0;
  if (u < 0 || u > 1) {
    u = clamp(u);
    t = dd > 1e-12 ? clamp((de * u - dw) / dd) : 0;
  }
  return { a: plus(p, times(d, t)), b: plus(r, times(e, u)), t };
}
