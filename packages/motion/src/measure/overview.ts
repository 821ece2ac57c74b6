import { lowPass, movingAverage } from '../math/filter';
import type { Motion } from '../model/motion';
import type { Contacts, Interval } from '../model/contacts';
import { withHands } from './hand-contacts';
import { groundwork, type Groundwork } from './groundwork';
import { strideFrames } from './strides';
import { series } from '../math/series';

/** What is drawn along a take's time axis, one value a frame. */
export interface Overview {
  /** Null when the skeleton is not a person's. */
  readonly contacts: Contacts | null;
  readonly floor: number;
  /** Of the hips over the floor, metres a second, up to 4 Hz: the ripple within a stride shows. */
  readonly speed: Float32Array;
  /** Metres above the floor. */
  readonly hipHeight: Float32Array;
  /** Radians, averaged over a stride. */
  readonly heading: Float32Array;
  readonly stride: number | null;
}

/**
 * @param motion metres, Y up; `found` its gait, null when it is not a person's
 *
 * @example
 * overviewOf(motion, ground).speed.length === motion.frames; // true
 */
export function overviewOf(motion: Motion, found: Groundwork | null): Overview {
  const stride = found ? strideFrames(found.contacts) : null;
  const hips = found?.body.hips ?? 0;
  const channel = (k: number) =>
    series(motion.frames, (f) =>
      found ? found.globals.positions[(f * found.globals.joints + hips) * 3 + k] : motion.rootPositions[f * 3 + k],
    );
  const floor = found?.soles.floor ?? 0;
  const x = lowPass(channel(0), 4, motion.fps);
  const z = lowPass(channel(2), 4, motion.fps);
  const speed = Float32Array.from(x, (_, f) => {
    const a = Math.max(0, f - 1),
      b = Math.min(motion.frames - 1, f + 1);
    return b > a ? (Math.hypot(x[b] - x[a], z[b] - z[a]) * motion.fps) / (b - a) : 0;
  });
  const height = lowPass(channel(1), 12, motion.fps);
  return {
    contacts: found && withHands(found),
    floor,
    speed,
    hipHeight: Float32Array.from(height, (y) => y - floor),
    heading: Float32Array.from(found ? movingAverage(found.headings, stride ?? motion.fps) : new Float64Array(motion.frames)),
    stride,
  };
}

/** A stretch of a long take with some frames more at both ends, so that filters have settled where it counts. */
export interface Stretch {
  readonly motion: Motion;
  /** Frame of the take at which `motion` begins. */
  readonly first: number;
  /** Frames of the take that count. */
  readonly from: number;
  readonly to: number;
}

/**
 * Puts the overviews of stretches together, one after the other in time; only one stretch is in memory at a time.
 *
 * @example
 * const stitch = stitchOverview(motion.fps, motion.frames);
 * stitch.add({ motion, first: 0, from: 0, to: motion.frames });
 * stitch.result().speed.length === motion.frames; // true
 */
export function stitchOverview(fps: number, frames: number): { add(stretch: Stretch): void; result(): Overview } {
  const speed = new Float32Array(frames);
  const hipHeight = new Float32Array(frames);
  const heading = new Float32Array(frames);
  const left: Interval[] = [];
  const leftHand: Interval[] = [];
  const rightHand: Interval[] = [];
  const right: Interval[] = [];
  let floor: number | null = null;
  let hasLegs = true;
  const strides: number[] = [];
  const join = (list: Interval[], { from, to }: Interval) => {
    const before = list.at(-1);
    if (before && before.to >= from) list[list.length - 1] = { from: before.from, to: Math.max(before.to, to) };
    else list.push({ from, to });
  };
  return {
    add({ motion, first, from, to }) {
      const found = groundwork(motion);
      const part = overviewOf(motion, found);
      hasLegs &&= found !== null;
      floor ??= part.floor;
      if (part.stride) strides.push(part.stride);
      // Headings go on without a jump of whole turns.
      const turn = from > 0 ? Math.round((heading[from - 1] - part.heading[from - first]) / (2 * Math.PI)) * 2 * Math.PI : 0;
      for (let f = from; f < to; f++) {
        speed[f] = part.speed[f - first];
        hipHeight[f] = part.hipHeight[f - first];
        heading[f] = part.heading[f - first] + turn;
      }
      for (const [list, found] of [
        [left, part.contacts?.left ?? []],
        [right, part.contacts?.right ?? []],
        [leftHand, part.contacts?.leftHand ?? []],
        [rightHand, part.contacts?.rightHand ?? []],
      ] as const) {
        for (const interval of found) {
          const a = Math.max(from, interval.from + first);
          const b = Math.min(to, interval.to + first);
          if (b > a) join(list, { from: a, to: b });
        }
      }
    },
    result: () => ({
      contacts: hasLegs
        ? { fps, floorM: floor ?? 0, left, right, ...(leftHand.length > 0 && { leftHand }), ...(rightHand.length > 0 && { rightHand }) }
        : null,
      floor: floor ?? 0,
      speed,
      hipHeight,
      heading,
      stride: strides.length > 0 ? strides.sort((a, b) => a - b)[strides.length >> 1] : null,
    }),
  };
}
