import type { Contacts, Interval } from '../model/contacts';
import type { Clip } from '../model/clip';
import type { Travel } from '../model/travel';
import { resampleAt } from '../model/resample';
import { resultFrame } from '../math/time-map';

/** An instant that is later than a frame by less is that frame: it is rounding. */
const NEXT = 1e-6;

/**
 * A clip on another course of time: the whole body at once, its travel and its contacts with it, so that what was planted stays planted.
 *
 * @param map for each frame of the result the frame of the clip, from `timeMap`
 */
export function retimed(clip: Clip, map: Float64Array): Clip {
  const { motion, loop } = clip;
  return {
    ...clip,
    motion: resampleAt(motion, map, motion.fps, { loop }),
    travel: clip.travel && travelAt(clip.travel, map),
    way: clip.way && travelAt(clip.way, map),
    belt: clip.belt && { x: channelAt(clip.belt.x, map), z: channelAt(clip.belt.z, map) },
    contacts: clip.contacts && contactsAt(clip.contacts, map, loop),
    lead: null,
    tail: null,
  };
}

/** A way is smooth by construction: a cubic through its neighbours, which go on straight at the ends. */
function travelAt(way: Travel, map: Float64Array): Travel {
  return { x: channelAt(way.x, map), y: channelAt(way.y, map), z: channelAt(way.z, map), heading: channelAt(way.heading, map) };
}

function channelAt(values: Float64Array, map: Float64Array): Float64Array {
  const last = values.length - 1;
  const at = (i: number) =>
    i < 0 ? 2 * values[0] - values[Math.min(last, -i)] : i > last ? 2 * values[last] - values[Math.max(0, 2 * last - i)] : values[i];
  return map.map((t) => {
    const i = Math.min(Math.max(0, last - 1), Math.floor(t));
    const u = t - i;
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    return b + (u / 2) * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a)));
  });
}

/** A foot bears in the frames that lie between two in which it bore: one that lies between its last and the next shows it leaving already. */
function contactsAt({ left, right, leftHand, rightHand, ...rest }: Contacts, map: Float64Array, loop: boolean): Contacts {
  const last = map[map.length - 1];
  const end = (to: number) => (!loop && to > last ? map.length : resultFrame(map, to - 1 + NEXT, loop));
  const moved = (all: readonly Interval[]) =>
    all.map(({ from, to }) => ({ from: resultFrame(map, from, loop), to: end(to) })).filter(({ from, to }) => to > from);
  return {
    ...rest,
    left: moved(left),
    right: moved(right),
    ...(leftHand && { leftHand: moved(leftHand) }),
    ...(rightHand && { rightHand: moved(rightHand) }),
  };
}
