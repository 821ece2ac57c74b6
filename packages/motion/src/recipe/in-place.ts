import { findBelt, type Belt } from '../measure/belt';
import { groundwork } from '../measure/groundwork';
import { bodyOf } from '../anatomy/body-of';
import type { Clip } from '../model/clip';
import { joinMotions } from '../model/join';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { series } from '../math/series';

/**
 * A cut of someone who walks on the spot as if he went, so that every step finds him planted; `belt` keeps what was added, frame by frame. Any other
 * cut as it is. What the take has around the cut counts when the belt is told.
 */
export function givenWay(clip: Clip): Clip {
  const { lead, motion, tail } = clip;
  const around = joinMotions([...(lead ? [lead] : []), motion, ...(tail ? [tail] : [])]);
  const body = bodyOf(motion);
  // Told roughly first: every move of a cut asks, and few takes are on a belt.
  const belt = body && findBelt(forwardKinematics(around), body, motion.fps) && groundwork(around)?.belt;
  if (!belt) return clip;
  const from = (part: Motion | null, first: number) => part && moved(part, belt, first);
  const ramp = (v: number) => series(motion.frames, (f) => (v * f) / motion.fps);
  return {
    ...clip,
    lead: from(lead, -(lead?.frames ?? 0)),
    motion: moved(motion, belt, 0),
    tail: from(tail, motion.frames),
    belt: { x: ramp(belt.x), z: ramp(belt.z) },
  };
}

function moved(motion: Motion, { x, z }: Belt, first: number): Motion {
  const rootPositions = motion.rootPositions.slice();
  for (let f = 0; f < motion.frames; f++) {
    rootPositions[f * 3] += (x * (first + f)) / motion.fps;
    rootPositions[f * 3 + 2] += (z * (first + f)) / motion.fps;
  }
  return { ...motion, rootPositions };
}

/**
 * A clip that was given a way without it again. What the steps have made of the way goes: of a loop its even share of the cycle, of a root all that it
 * travels, of anything else what was added, as far as the steps have carried it along.
 */
export function inPlaceAgain(clip: Clip): Clip {
  const { belt, motion, travel, loop } = clip;
  if (!belt) return clip;
  if (travel) {
    const still = (values: Float64Array) => values.map(() => values[0]);
    return { ...clip, travel: { ...travel, x: still(travel.x), z: still(travel.z) }, belt: undefined };
  }
  const last = motion.frames - 1;
  const p = motion.rootPositions;
  const isCarried = !loop && belt.x.length === motion.frames;
  const even = (k: number) => (f: number) => ((p[last * 3 + k] - p[k]) * f) / Math.max(1, last);
  const [x, z] = isCarried ? [(f: number) => belt.x[f], (f: number) => belt.z[f]] : [even(0), even(2)];
  const rootPositions = p.slice();
  for (let f = 0; f <= last; f++) {
    rootPositions[f * 3] -= x(f);
    rootPositions[f * 3 + 2] -= z(f);
  }
  const { fps } = motion;
  const back = (part: Motion | null, first: number) => {
    if (!part) return null;
    const [vx, vz] = [(x(last) * fps) / last, (z(last) * fps) / last];
    return moved(part, { x: -vx, z: -vz }, first);
  };
  return {
    ...clip,
    lead: back(clip.lead, -(clip.lead?.frames ?? 0)),
    motion: { ...motion, rootPositions },
    tail: back(clip.tail, motion.frames),
    way: undefined,
    belt: undefined,
  };
}
