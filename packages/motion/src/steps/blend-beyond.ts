import { slerp } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import type { Clip } from '../model/clip';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { joinMotions } from '../model/join';
import { copyMotion, cutMotion, type Motion } from '../model/motion';

/**
 * A cycle closed with what the take has beyond the cut: the end led over into the frames before the cut, one cycle on, and the beginning out
 * of those after it.
 *
 * @returns one for each side of the cut on which the take has such frames
 */
export function blendBeyond(clip: Clip, cycle: FloorTransform, seconds: number): Motion[] {
  const { motion, lead, tail } = clip;
  const last = motion.frames - 1;
  const most = Math.min(Math.round(seconds * motion.fps), Math.floor(last / 2));
  const atEnd = lead ? Math.min(most, lead.frames) : 0;
  const atStart = tail ? Math.min(most, tail.frames) : 0;
  const least = Math.min(most, Math.ceil(0.08 * motion.fps));
  const options: Motion[] = [];
  if (lead && atEnd >= least) {
    // Frames −w … 0 of the take, moved one cycle on, to end with.
    const beyond = joinMotions([cutMotion(lead, lead.frames - atEnd, lead.frames - 1), cutMotion(motion, 0, 0)]);
    moveFrames(beyond, cycle);
    options.push(crossfade(motion, beyond, last - atEnd, (t) => smoothStep5(t)));
  }
  if (tail && atStart >= least) {
    // Frames last … last + w, moved one cycle back, to begin with.
    const beyond = joinMotions([cutMotion(motion, last, last), cutMotion(tail, 0, atStart - 1)]);
    moveFrames(beyond, invert(cycle));
    options.push(crossfade(motion, beyond, 0, (t) => 1 - smoothStep5(t)));
  }
  return options;
}

/** The motion with frames `at` onward led into `other` by a weight that goes over `other`'s length. */
function crossfade(motion: Motion, other: Motion, at: number, weight: (t: number) => number): Motion {
  const out = copyMotion(motion);
  const joints = motion.skeleton.joints.length;
  for (let f = 0; f < other.frames; f++) {
    const w = weight(f / (other.frames - 1));
    const lerp = (target: Float32Array, source: Float32Array) => {
      for (let k = 0; k < 3; k++) target[(at + f) * 3 + k] += (source[f * 3 + k] - target[(at + f) * 3 + k]) * w;
    };
    lerp(out.rootPositions, other.rootPositions);
    out.translations?.forEach((t, j) => lerp(t, other.translations?.get(j) ?? t));
    for (let j = 0; j < joints; j++) {
      const o = ((at + f) * joints + j) * 4;
      slerp(out.rotations, o, out.rotations, o, other.rotations, (f * joints + j) * 4, w);
    }
  }
  return out;
}
