import { movingAverage } from '../math/filter';
import { smoothStep5 } from '../math/smooth';
import { emptyTravel, type Travel } from '../model/travel';
import type { FloorCurve } from '../math/floor-curve';
import type { Lean } from './replant';
import { progressOf, type Progress } from '../measure/progress';

const GRAVITY = 9.81;

/** Courses by distance of the path that a way shall follow. */
export type PathShape =
  | { readonly kind: 'straight' }
  /** Metres, positive to the left. */
  | { readonly kind: 'arc'; readonly radius: number }
  | { readonly kind: 'curve'; readonly curve: FloorCurve }
  /** Turned by so much in all, radians, positive to the left. */
  | { readonly kind: 'turn'; readonly radians: number };

/**
 * A way laid along another path, begun at the same place: as far in each frame as it was, facing its course as it did.
 *
 * @param factor of the distance
 */
export function bendWay(way: Travel, shape: PathShape | null, fps: number, factor = 1): { way: Travel; lean: Lean } {
  const p = progressOf(way, fps);
  const n = way.x.length;
  const turned = turnBy(way, p, shape, factor);
  const out = emptyTravel(n);
  out.x[0] = way.x[0];
  out.z[0] = way.z[0];
  for (let f = 0; f < n; f++) {
    out.y[f] = way.y[f];
    out.heading[f] = way.heading[f] + turned[f];
    if (f === 0) continue;
    const h = p.direction[f] + (turned[f] + turned[f - 1]) / 2;
    out.x[f] = out.x[f - 1] + Math.sin(h) * p.step[f] * factor;
    out.z[f] = out.z[f - 1] + Math.cos(h) * p.step[f] * factor;
  }
  return { way: out, lean: leanOf(p, turned, fps, factor) };
}

/** By how much more the way is turned in every frame. */
function turnBy(way: Travel, p: Progress, shape: PathShape | null, factor: number): Float64Array {
  const n = way.x.length;
  const [first, last] = [way.heading[0], way.heading[n - 1]];
  const start = p.course[0];
  if (!shape) return new Float64Array(n);
  if (shape.kind === 'turn') {
    const all = last - first;
    // Who turns already turns as he did, more or less of it; who does not is turned evenly.
    if (Math.abs(all) > (15 * Math.PI) / 180) return way.heading.map((h) => (h - first) * (shape.radians / all - 1));
    return way.heading.map((_, f) => (shape.radians - all) * smoothStep5(f / (n - 1)));
  }
  if (p.isOnTheSpot) return new Float64Array(n);
  return p.course.map((course, f) => {
    const s = p.distance[f] * factor;
    const wanted = shape.kind === 'straight' ? 0 : shape.kind === 'arc' ? s / shape.radius : shape.curve.course(s);
    return start + wanted - course;
  });
}

/** Whoever goes round a bend leans into it: by the angle whose tangent is v²/(r·g), less what he leans already. */
function leanOf(p: Progress, turned: Float64Array, fps: number, factor: number): Lean {
  const n = turned.length;
  const raw = new Float64Array(n);
  for (let f = 0; f < n; f++) {
    const [a, b] = [Math.max(0, f - 1), Math.min(n - 1, f + 1)];
    const seconds = (b - a) / fps || 1;
    const before = (p.course[b] - p.course[a]) / seconds;
    const speed = (p.distance[b] - p.distance[a]) / seconds;
    const after = before + (turned[b] - turned[a]) / seconds;
    raw[f] = Math.atan((factor * speed * after) / GRAVITY) - Math.atan((speed * before) / GRAVITY);
  }
  const isEven = raw.every((v) => Math.abs(v - raw[0]) < 1e-6);
  return { angle: isEven ? raw : movingAverage(raw, Math.max(1, 0.6 * fps)), course: p.course.map((c, f) => c + turned[f]) };
}
