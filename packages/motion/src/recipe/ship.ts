import type { Contacts, Interval } from '../model/contacts';
import type { Clip } from '../model/clip';
import type { Travel } from '../model/travel';
import { withContacts } from '../measure/clip-slides';
import { resample } from '../model/resample';
import { settleSeam } from '../steps/settle';
import { series } from '../math/series';

export interface Shipped {
  readonly clip: Clip;
  /** Change of speed by the retime to whole frames: 1 is none, 1.004 is 0.4 % faster. */
  readonly rateChange: number;
}

/**
 * The clip at the rate it ships at, lasting a whole number of frames: a cycle of 65 frames at 60 becomes 32 at 30 by a
 * retime too small to see.
 *
 * @example
 * shipClip(cutClip(motion, 0, 60), 30).clip.motion.frames; // 31
 */
export function shipClip(clip: Clip, fps: number): Shipped {
  const from = clip.motion.frames - 1;
  const cycle = Math.max(1, Math.round((from * fps) / clip.motion.fps));
  const rateChange = from / clip.motion.fps / (cycle / fps);
  const sampled = resample(clip.motion, cycle + 1, fps, { loop: clip.loop });
  // In the root's space nothing turns; there the seam can be settled again among the frames of the new rate.
  const motion = clip.loop && clip.travel && cycle !== from ? settleSeam(sampled) : sampled;
  // Keys are thinned by when the feet bear, known or measured.
  const known = clip.thin ? withContacts(clip).contacts : clip.contacts;
  const contacts = known && atRate(known, cycle / from, fps);
  return { clip: { ...clip, contacts, motion, travel: clip.travel && resampleTravel(clip.travel, cycle + 1), way: undefined }, rateChange };
}

const ROUNDING = 1e-6;

/** Contacts at another rate: the frames that lie between two in which a foot bore. */
function atRate({ floorM, left, right }: Contacts, factor: number, fps: number): Contacts {
  const scaled = (intervals: readonly Interval[]) =>
    intervals
      .map(({ from, to }) => ({ from: Math.ceil(from * factor - ROUNDING), to: Math.floor((to - 1) * factor + ROUNDING) + 1 }))
      .filter(({ from, to }) => to > from);
  return { fps, floorM, left: scaled(left), right: scaled(right) };
}

/** Ways are smooth by construction: between their frames a straight line is as good as they are. */
function resampleTravel(travel: Travel, frames: number): Travel {
  const channel = (values: Float64Array) => {
    const n = values.length - 1;
    return series(frames, (f) => {
      const t = (f * n) / (frames - 1);
      const i = Math.min(n - 1, Math.floor(t));
      return values[i] + (values[i + 1] - values[i]) * (t - i);
    });
  };
  return { x: channel(travel.x), y: channel(travel.y), z: channel(travel.z), heading: channel(travel.heading) };
}
