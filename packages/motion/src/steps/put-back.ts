import { toSpaceOf, type Clip } from '../model/clip';
import { alignSigns, cutMotion, type Motion } from '../model/motion';
import { cycleTransform } from '../model/repeat';
import { repeatFirst } from './repeat-first';

/** The frames of a clip out of what was played of it, in its own space; a loop comes round to its first frame. */
export function putBack(clip: Clip, locked: Motion, start: number): Clip {
  const last = clip.motion.frames - 1;
  const own = start > 0 ? cutMotion(locked, start, start + last) : locked;
  const motion = clip.travel ? toSpaceOf(own, clip.travel) : own;
  if (start > 0) {
    const cycle = cycleTransform(clip);
    repeatFirst(motion, last, clip.travel ? 0 : cycle.turn, clip.travel ? 0 : cycle.y);
    if (clip.travel) for (const k of [0, 2]) motion.rootPositions[last * 3 + k] = motion.rootPositions[k];
  }
  alignSigns(motion);
  return { ...clip, motion };
}
