import type { Contacts } from '../model/contacts';
import { series } from '../math/series';

/** The course of strides: where in them each instant is, growing by one a stride; left landings are whole numbers. */
export interface StrideCourse {
  /** The stride at a frame, fractional; before the first landing and after the last it runs on at the pace beside. */
  at(frame: number): number;
  /** The frame at a stride. */
  frameAt(stride: number): number;
}

/** Landings of both feet that are nearer to one another are one, seconds. */
const TOGETHER = 0.1;
/** Landings that are further apart are no stride's, seconds. */
const LONGEST = 1.4;

/**
 * The course of strides about a frame, from the landings of both feet.
 *
 * @param near the landings about this frame count
 * @returns null where nobody walks there
 */
export function strideCourse(contacts: Contacts, near: number): StrideCourse | null {
  const landings = (['left', 'right'] as const)
    .flatMap((side) => contacts[side].filter(({ from }) => from > 0).map(({ from }) => ({ at: from, side })))
    .sort((a, b) => a.at - b.at);
  const knots: [number, number][] = [];
  const most = LONGEST * contacts.fps;
  const together = TOGETHER * contacts.fps;
  // Who lands on both feet at once takes no strides.
  if (landings.some((own, i) => i > 0 && own.at - landings[i - 1].at < together && Math.abs(own.at - near) < most)) return null;
  for (const { at, side } of landings) {
    const last = knots[knots.length - 1];
    if (last && at - last[0] > most) {
      // Somebody stood in between: what counts is on the side of the frame.
      if (last[0] >= near) break;
      knots.length = 0;
    }
    const half = side === 'left' ? 0 : 0.5;
    const before = knots[knots.length - 1]?.[1];
    if (before === undefined) knots.push([at, half]);
    else {
      // Half a stride on; a whole one where the same foot lands again.
      const next = Math.floor(before) + half;
      knots.push([at, next > before ? next : next + 1]);
    }
  }
  if (knots.length < 2 || near < knots[0][0] - most || near > knots[knots.length - 1][0] + most) return null;
  return { at: (frame) => along(knots, frame, 0, 1), frameAt: (stride) => along(knots, stride, 1, 0) };
}

/** A piecewise straight course through knots, run on at both ends. */
function along(knots: readonly (readonly [number, number])[], x: number, from: 0 | 1, to: 0 | 1): number {
  let k = 0;
  while (k < knots.length - 2 && x >= knots[k + 1][from]) k++;
  const [a, b] = [knots[k], knots[k + 1]];
  return a[to] + ((x - a[from]) / (b[from] - a[from])) * (b[to] - a[to]);
}

/** The instants of both pieces at every frame of an overlap, in frames of their motions. */
export interface OverlapTimes {
  readonly leaving: Float64Array;
  readonly coming: Float64Array;
}

/** Both at their own pace. */
export function plainTimes(leaving: number, coming: number, frames: number): OverlapTimes {
  const run = (from: number) => series(frames + 1, (f) => from + f);
  return { leaving: run(leaving), coming: run(coming) };
}

/**
 * Instants of both pieces such that they are in the same part of the stride all through the overlap: its pace goes from the one's to the other's. The coming
 * piece begins at the instant of the same phase that is nearest to where it was to begin.
 *
 * @param weights of the coming piece, one a frame
 * @returns null where one of them does not walk
 */
export function timesInStep(
  leaving: { readonly contacts: Contacts; readonly from: number },
  coming: { readonly contacts: Contacts; readonly from: number },
  weights: ArrayLike<number>,
): OverlapTimes | null {
  const frames = weights.length - 1;
  const a = strideCourse(leaving.contacts, leaving.from);
  const b = strideCourse(coming.contacts, coming.from);
  if (!a || !b) return null;
  const pace = (course: StrideCourse, frame: number) => Math.max(1e-4, course.at(frame + 1) - course.at(frame));
  const start = a.at(leaving.from);
  const wanted = b.at(coming.from);
  // Whole strides of the one that are those of the other, so that it begins nearest.
  const shift = Math.round(wanted - start);
  const out = { leaving: new Float64Array(frames + 1), coming: new Float64Array(frames + 1) };
  let stride = start;
  for (let f = 0; f <= frames; f++) {
    out.leaving[f] = a.frameAt(stride);
    out.coming[f] = b.frameAt(stride + shift);
    stride += (1 - weights[f]) * pace(a, out.leaving[f]) + weights[f] * pace(b, out.coming[f]);
  }
  out.leaving[0] = leaving.from;
  // Behind the overlap the coming piece goes on frame by frame.
  const off = Math.round(out.coming[frames]) - out.coming[frames];
  for (let f = 0; f <= frames; f++) out.coming[f] += (off * f) / Math.max(1, frames);
  return out;
}
