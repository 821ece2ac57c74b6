import { movingAverage } from '../math/filter';
import { groundwork } from '../measure/groundwork';
import { strideFrames } from '../measure/strides';
import { worldMotion, type Clip } from '../model/clip';
import { series } from '../math/series';
import { trackOf } from '../model/track';

/** Speed over time of a clip that sets off or comes to a stop. */
export interface SpeedCourse {
  readonly fps: number;
  /** Metres a second per frame, the ripple of a step averaged out. */
  readonly mps: Float64Array;
  /** Seconds from standing to nine tenths of the greatest speed, or from that to standing; null where he does neither. */
  readonly rampSeconds: number | null;
  /** The mean over that time, metres a second squared. */
  readonly ratePerS2: number | null;
}

/** A share of the greatest speed that counts as standing. */
const STILL = 0.05;

/**
 * Speed over time, and how quickly it is gathered or lost.
 *
 * @returns null for what is no person
 *
 * @example
 * speedCourse(cutClip(motion, 60, 180)).rampSeconds; // null
 */
export function speedCourse(clip: Pick<Clip, 'motion' | 'travel'>): SpeedCourse | null {
  const ground = groundwork(worldMotion(clip));
  if (!ground) return null;
  const { globals, body, motion, contacts } = ground;
  const { fps, frames } = motion;
  const step = Math.max(3, Math.min(frames / 2, (strideFrames(contacts) ?? 0.9 * fps) / 2));
  const channel = (k: number) => trackOf(globals, body.hips, k);
  const [x, z] = [movingAverage(channel(0), step), movingAverage(channel(2), step)];
  const mps = x.map((_, f) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    return (Math.hypot(x[b] - x[a], z[b] - z[a]) * fps) / Math.max(1, b - a);
  });
  return { fps, mps, ...rampOf(mps, fps) };
}

function rampOf(mps: Float64Array, fps: number): Pick<SpeedCourse, 'rampSeconds' | 'ratePerS2'> {
  const most = mps.reduce((a, b) => Math.max(a, b), 0);
  const [first, last] = [mps[0], mps[mps.length - 1]];
  const none = { rampSeconds: null, ratePerS2: null };
  if (most < 0.2 || Math.min(first, last) > 0.5 * most) return none;
  // A stop is a start seen backwards.
  const course = first <= last ? mps : mps.slice().reverse();
  const fast = course.findIndex((v) => v >= 0.9 * most);
  const still = course.subarray(0, fast).findLastIndex((v) => v <= STILL * most);
  if (fast < 1) return none;
  const from = Math.max(0, still);
  const rampSeconds = (fast - from) / fps;
  return { rampSeconds, ratePerS2: (course[fast] - course[from]) / Math.max(1e-6, rampSeconds) };
}

/**
 * Speed over time as a contract asks for it: evenly up to a speed, or down from it.
 *
 * @param from seconds at which it begins
 */
export function askedCourse(kind: 'start' | 'stop', mps: number, perS2: number, from: number, seconds: number, fps: number): Float64Array {
  return series(Math.round(seconds * fps) + 1, (f) => {
    const gone = Math.max(0, f / fps - from);
    return kind === 'start' ? Math.min(mps, gone * perS2) : Math.max(0, mps - gone * perS2);
  });
}
