import { wrapAngle } from '../math/angles';
import { movingAverage } from '../math/filter';
import type { Travel } from '../model/travel';

/** Slower than this nobody goes anywhere, metres a second: where the course is meant, the facing is. */
const GOING = 0.1;

/** A way shorter than this is on the spot, metres. */
const ON_THE_SPOT = 0.3;

/** A way by its progress: metres gone in each frame and so far, the direction gone in, and the course, which is that direction smoothed. */
export interface Progress {
  readonly step: Float64Array;
  readonly distance: Float64Array;
  /** Direction of each frame's step, radians. */
  readonly direction: Float64Array;
  readonly course: Float64Array;
  readonly isOnTheSpot: boolean;
}

/** @param fps frames a second */
export function progressOf(way: Travel, fps: number): Progress {
  const n = way.x.length;
  const step = new Float64Array(n);
  const distance = new Float64Array(n);
  const direction = new Float64Array(n);
  const aside = new Float64Array(n).fill(Number.NaN);
  const usual = usualAside(way);
  for (let f = 1; f < n; f++) {
    const [dx, dz] = [way.x[f] - way.x[f - 1], way.z[f] - way.z[f - 1]];
    step[f] = Math.hypot(dx, dz);
    distance[f] = distance[f - 1] + step[f];
    const facing = (way.heading[f] + way.heading[f - 1]) / 2;
    const going = step[f] * fps > GOING;
    // Whoever goes backwards goes so all the time, not now by the left and now by the right.
    direction[f] = step[f] > 0 ? facing + usual + wrapAngle(Math.atan2(dx, dz) - facing - usual) : facing + usual;
    if (going) aside[f] = direction[f] - facing;
  }
  const isOnTheSpot = Math.hypot(way.x[n - 1] - way.x[0], way.z[n - 1] - way.z[0]) < ON_THE_SPOT && distance[n - 1] < 3 * ON_THE_SPOT;
  if (isOnTheSpot) aside.fill(0);
  fillGaps(aside);
  const smooth = movingAverage(aside, Math.max(1, 0.5 * fps));
  return { step, distance, direction, course: way.heading.map((h, f) => h + smooth[f]), isOnTheSpot };
}

/** Which way he goes as he faces it, on the whole: 0 ahead, π backwards. */
function usualAside({ x, z, heading }: Travel): number {
  let ahead = 0;
  let left = 0;
  for (let f = 1; f < x.length; f++) {
    const [dx, dz, h] = [x[f] - x[f - 1], z[f] - z[f - 1], (heading[f] + heading[f - 1]) / 2];
    ahead += dx * Math.sin(h) + dz * Math.cos(h);
    left += dx * Math.cos(h) - dz * Math.sin(h);
  }
  return Math.hypot(ahead, left) < 1e-6 ? 0 : Math.atan2(left, ahead);
}

/** Whoever stands faces as he did when he last went, or will when he next goes. */
function fillGaps(values: Float64Array): void {
  const first = values.findIndex((v) => !Number.isNaN(v));
  if (first < 0) return void values.fill(0);
  values.fill(values[first], 0, first);
  for (let f = first + 1; f < values.length; f++) if (Number.isNaN(values[f])) values[f] = values[f - 1];
}
