import { median } from '../math/statistics';
import type { Contacts, Interval } from '../model/contacts';
import { lowPassedPoint, type LowPassedPoint } from './low-passed';
import type { Soles, SoleTracks } from './soles';

/** How far a foot slid in one contact, centimetres, and where it was worst. */
export interface Slide {
  readonly side: 'left' | 'right';
  readonly from: number;
  readonly to: number;
  /** Distance between where the bearing point was at the start and at the end. */
  readonly netCm: number;
  /** Greatest distance from where it was at the start. */
  readonly excursionCm: number;
  readonly pathCm: number;
}

/**
 * Foot slide of every contact: horizontal movement, low-passed at 12 Hz, of the sole point that bears (the lowest of heel, ball
 * and tip); the change from one to the next adds nothing. The first and last 40 ms, in which the foot lands and leaves, do not count.
 *
 * @example
 * slides(ground.soles, ground.contacts).every(({ excursionCm }) => excursionCm < 3); // true
 */
export function slides(soles: Soles, contacts: Contacts): Slide[] {
  return (['left', 'right'] as const).flatMap((side) => {
    const track = filtered(soles[side], contacts.fps);
    return contacts[side].map((interval) => slideOf(side, track, interval, contacts.fps));
  });
}

/** Heel, ball and tip of a foot, low-passed at 12 Hz. */
export type LowPassed = readonly [heel: LowPassedPoint, ball: LowPassedPoint, tip: LowPassedPoint];

export const lowPassedSoles = (soles: Soles, fps: number): Readonly<Record<'left' | 'right', LowPassed>> => ({
  left: filtered(soles.left, fps),
  right: filtered(soles.right, fps),
});

const filtered = ({ heel, ball, tip }: SoleTracks, fps: number): LowPassed => [
  lowPassedPoint(heel, fps),
  lowPassedPoint(ball, fps),
  lowPassedPoint(tip, fps),
];

/** The lowest sole point from one frame to the next. */
export function lowestPoint(track: LowPassed, f: number): LowPassedPoint {
  let low = track[0];
  for (const point of track) if (point.y[f] + point.y[f - 1] < low.y[f] + low.y[f - 1]) low = point;
  return low;
}

/** Points of a sole whose heights differ by less lie alike, metres. */
const ALIKE = 0.0001;

/**
 * The sole point that bears from one frame to the next: the lowest, and where it lies alike the ball. Where toes lie flat, ball and tip would take
 * turns, and what each of them slides while it is not asked would not be seen.
 */
export function bearingPoint(track: LowPassed, f: number): LowPassedPoint {
  const [, ball] = track;
  const low = lowestPoint(track, f);
  return (ball.y[f] + ball.y[f - 1] - low.y[f] - low.y[f - 1]) / 2 < ALIKE ? ball : low;
}

function slideOf(side: 'left' | 'right', track: LowPassed, { from, to }: Interval, fps: number): Slide {
  const margin = Math.min(Math.round(0.04 * fps), Math.floor((to - from) / 3));
  let x = 0,
    z = 0,
    path = 0,
    excursion = 0;
  for (let f = from + margin + 1; f < to - margin; f++) {
    const bearing = bearingPoint(track, f);
    const dx = bearing.x[f] - bearing.x[f - 1];
    const dz = bearing.z[f] - bearing.z[f - 1];
    x += dx;
    z += dz;
    path += Math.hypot(dx, dz);
    excursion = Math.max(excursion, Math.hypot(x, z));
  }
  return { side, from, to, netCm: Math.hypot(x, z) * 100, excursionCm: excursion * 100, pathCm: path * 100 };
}

/** Ground that much above the floor, metres, is a level of its own. */
const LEAST_RISE = 0.05;

/**
 * Highest that the lowest sole point is over its ground while a foot bears, centimetres, the first and last 40 ms of a contact left out: 0 for feet
 * that touch it. Ground well above the floor, as of a stair, is the level at which the contact itself is.
 */
export function hoverCm(soles: Soles, contacts: Contacts): number {
  let most = 0;
  for (const side of ['left', 'right'] as const) {
    const [heel, ball, tip] = filtered(soles[side], contacts.fps);
    const lowest = heel.y.map((y, f) => Math.min(y, ball.y[f], tip.y[f]));
    for (const { from, to } of contacts[side]) {
      const margin = Math.min(Math.round(0.04 * contacts.fps), Math.floor((to - from) / 3));
      const heights = lowest.subarray(Math.max(0, from + margin), Math.min(lowest.length, to - margin));
      if (heights.length === 0) continue;
      const usual = median(heights);
      const level = usual - soles.floor > LEAST_RISE ? usual : soles.floor;
      for (const height of heights) most = Math.max(most, height - level);
    }
  }
  return most * 100;
}

/** Deepest sole point below the floor in any frame, centimetres; 0 when none is. */
export const sinkCm = (soles: Soles): number => sinkIn(soles, 0, soles.left.heel.length / 3);

/**
 * The same in some frames only, the first and the first after.
 *
 * @param level of the ground per frame, where it is not the floor
 */
export function sinkIn(soles: Soles, from: number, to: number, level: (frame: number) => number = () => soles.floor): number {
  let low = 0;
  for (const side of ['left', 'right'] as const) {
    for (const points of [soles[side].heel, soles[side].ball, soles[side].tip]) {
      const end = Math.min(points.length, to * 3);
      for (let i = Math.max(0, from) * 3 + 1; i < end; i += 3) low = Math.min(low, points[i] - level(Math.floor(i / 3)));
    }
  }
  return -low * 100 + 0;
}
