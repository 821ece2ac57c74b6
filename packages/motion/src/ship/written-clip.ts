import type { Clip } from '../model/clip';
import { cutMotion, type Motion } from '../model/motion';
import type { Travel } from '../model/travel';
import type { NamedClip } from '../character/glb-write';
import type { ShipOptions } from './options';

/** A clip as its keys are written. */
export type WrittenClip = NamedClip['clip'] & Pick<NamedClip, 'cycle'>;

/** Cut once, so that its keys are thinned once. */
const KNOWN = new WeakMap<Motion, Motion>();

/**
 * The clip as its keys are written: all of it, or of a loop, where that is asked for, all but its last key; its travel on the root, or a root that stays.
 */
export function writtenClip(clip: Clip, { lastKey, rootMotion }: Pick<ShipOptions, 'lastKey' | 'rootMotion'>): WrittenClip {
  const { motion, loop, contacts, thin } = clip;
  const travel = clip.travel && rootMotion === 'table' ? still(motion.frames) : clip.travel;
  if (!loop || lastKey === 'kept' || motion.frames < 3) return { motion, travel, loop, contacts, thin };
  const last = motion.frames - 1;
  const cut = KNOWN.get(motion) ?? cutMotion(motion, 0, last - 1);
  KNOWN.set(motion, cut);
  const over = (values: Float64Array) => values[last] - values[0];
  return {
    motion: cut,
    travel: travel && cutTravel(travel, last),
    loop: false,
    contacts,
    thin,
    cycle: travel ? [over(travel.x), over(travel.z), over(travel.heading)] : [0, 0, 0],
  };
}

const cutTravel = ({ x, y, z, heading }: Travel, to: number): Travel => ({
  x: x.slice(0, to),
  y: y.slice(0, to),
  z: z.slice(0, to),
  heading: heading.slice(0, to),
});

const still = (frames: number): Travel => ({
  x: new Float64Array(frames),
  y: new Float64Array(frames),
  z: new Float64Array(frames),
  heading: new Float64Array(frames),
});
