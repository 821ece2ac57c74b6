import { DEGREES, wrapAngle } from '../math/angles';
import { movingAverage } from '../math/filter';
import type { Groundwork } from '../measure/groundwork';
import { footfalls } from '../measure/strides';
import { paceOf } from './strolls';
import { trackOf } from '../model/track';

/** Somebody who goes on in another direction. */
export interface Pivot {
  /** Frames of the take, both included: a landing while he still goes at full pace, and one when he does so again. */
  readonly from: number;
  readonly to: number;
  /** The slowest instant. */
  readonly at: number;
}

/** At the slowest he has this share of his pace at most. */
const SLOW = 0.6;
/** He has his pace again at this share of the quickest about the bend. */
const UP = 0.88;
/** Seconds on either side within which he slows down and gets up to speed. */
const REACH = 2.4;
const LEAST_TURN = 60;

/** Where somebody breaks his pace and goes on in another direction. */
export function pivotsOf(ground: Groundwork): Pivot[] {
  const { motion, globals, body, contacts } = ground;
  const { fps, frames } = motion;
  const pace = paceOf(ground);
  const place = (k: number) => movingAverage(trackOf(globals, body.hips, k), 0.3 * fps);
  const [x, z] = [place(0), place(2)];
  const course = (a: number, b: number) => Math.atan2(x[b] - x[a], z[b] - z[a]);
  const reach = Math.round(REACH * fps);
  const near = Math.round(0.6 * fps);
  const falls = [...footfalls(contacts, 'left'), ...footfalls(contacts, 'right')].sort((a, b) => a - b);
  const out: Pivot[] = [];
  for (let f = near; f < frames - near; f++) {
    const within = pace.subarray(Math.max(0, f - near), f + near + 1);
    if (pace[f] > within.reduce((least, v) => Math.min(least, v), Infinity) || (out.length > 0 && f - out[out.length - 1].at < near))
      continue;
    const before = peak(pace, Math.max(0, f - reach), f);
    const after = peak(pace, f, Math.min(frames, f + reach));
    if (pace[f] > SLOW * Math.min(before, after) || Math.min(before, after) < 0.8) continue;
    const goes = findBack(pace, f, UP * before, f - reach);
    const goesOn = findOn(pace, f, UP * after, f + reach);
    if (goes === null || goesOn === null) continue;
    const turned = wrapAngle(course(goesOn - (near >> 1), goesOn) - course(goes, goes + (near >> 1))) * DEGREES;
    if (Math.abs(turned) < LEAST_TURN) continue;
    const from = falls.findLast((fall) => fall <= goes);
    const to = falls.find((fall) => fall >= goesOn);
    if (from !== undefined && to !== undefined) out.push({ from, to, at: f });
  }
  return out;
}

const peak = (values: Float64Array, from: number, to: number): number =>
  values.subarray(from, to).reduce((most, v) => Math.max(most, v), 0);

function findBack(values: Float64Array, at: number, least: number, first: number): number | null {
  for (let f = at; f >= Math.max(0, first); f--) if (values[f] >= least) return f;
  return null;
}

function findOn(values: Float64Array, at: number, least: number, last: number): number | null {
  for (let f = at; f <= Math.min(values.length - 1, last); f++) if (values[f] >= least) return f;
  return null;
}
