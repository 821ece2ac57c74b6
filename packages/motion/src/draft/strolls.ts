import { isHopping, movements } from '../find/segments';
import { median, quantile } from '../math/statistics';
import { movingAverage } from '../math/filter';
import type { Groundwork } from '../measure/groundwork';
import { strideFrames } from '../measure/strides';
import { trackOf } from '../model/track';

/** A stretch of a take from standing to standing, and how sure one may be that nothing went wrong in it. */
export interface Stroll {
  /** Frames, the first and the first after. */
  readonly from: number;
  readonly to: number;
  /** It begins before the take does. */
  readonly isCut: boolean;
  /** Where he falls out of step: a frame of it; null where he never does. */
  readonly stumble: number | null;
}

/** Where a take with stands in it begins within this, seconds, somebody was already going when the suit was switched on. */
const STANDS_FIRST = 0.25;
/** Who goes slower than this share of his usual pace while he is under way has stumbled, or turned about. */
const SLOW = 0.72;
/** Whose head comes farther ahead of the hips than it usually is at that pace by more than this, metres, has stumbled. */
const FALLS = 0.06;

/**
 * The stretches of a take in which somebody goes, and what went wrong with them.
 *
 * @param bends frames at which he is slow because he turns about
 */
export function strollsOf(ground: Groundwork, bends: readonly number[]): Stroll[] {
  const { motion, contacts } = ground;
  const { fps, frames } = motion;
  const all = movements(contacts, frames);
  const speed = paceOf(ground);
  const lean = leanOf(ground);
  const stands = all.some(({ from, to }) => from > 0 || to < frames);
  return all.map(({ from, to }) => {
    const quick = quantile(speed.subarray(from, to), 0.75);
    const up = speed.subarray(from, to).findIndex((v) => v >= 0.9 * quick) + from;
    const down = speed.subarray(from, to).findLastIndex((v) => v >= 0.9 * quick) + from;
    // The quicker he goes the farther he leans: a jog is held against itself, not against standing.
    const usual = median(lean.subarray(up, down + 1));
    let stumble: number | null = null;
    let worst = 0;
    // Who hops leans and slows down as it has to be.
    for (let f = up; f <= down && !isHopping(contacts, { from, to }); f++) {
      const isBend = bends.some((bend) => Math.abs(bend - f) < 1.2 * fps);
      const slow = isBend ? 0 : 1 - speed[f] / quick / SLOW;
      const falls = (lean[f] - usual) / FALLS - 1;
      const bad = Math.max(slow, falls);
      if (quick > 0.3 && bad > worst) [worst, stumble] = [bad, f];
    }
    return { from, to, isCut: stands && from < STANDS_FIRST * fps, stumble };
  });
}

/** Metres a second of the hips, the ripple of a step averaged out. */
export function paceOf({ globals, body, contacts, motion: { fps } }: Groundwork): Float64Array {
  const step = Math.max(3, Math.min(fps, strideFrames(contacts) ?? fps) / 2);
  const of = (k: number) => movingAverage(trackOf(globals, body.hips, k), step);
  const [x, z] = [of(0), of(2)];
  return x.map((_, f) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(x.length - 1, f + 1)];
    return (Math.hypot(x[b] - x[a], z[b] - z[a]) * fps) / Math.max(1, b - a);
  });
}

/** How far the head is ahead of the hips, the way he faces, metres: who falls forward has it far ahead. */
function leanOf({ globals, body, headings }: Groundwork): Float64Array {
  const top = body.head >= 0 ? body.head : body.hips;
  const at = (f: number, j: number, k: number) => globals.positions[(f * globals.joints + j) * 3 + k];
  return Float64Array.from(
    headings,
    (heading, f) => (at(f, top, 0) - at(f, body.hips, 0)) * Math.sin(heading) + (at(f, top, 2) - at(f, body.hips, 2)) * Math.cos(heading),
  );
}
