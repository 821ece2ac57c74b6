import { z } from 'zod';
import { align } from '../find/align';
import { slerp } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { gait } from '../measure/gait';
import type { Clip } from '../model/clip';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { alignSigns, copyMotion, cutMotion, type Motion } from '../model/motion';
import { repeatLoop } from '../model/repeat';
import { repeatFirst } from './repeat-first';
import { settleSeam } from './settle';
import { spreadDifference } from './spread';
import type { Step } from './step';

export const loopParams = z.object({
  kind: z.literal('loop'),
  off: z.boolean().optional(),
  /** `blend` with the frames of the take beyond the cut; `spread` the difference to both sides of the seam. Blend needs such frames. */
  close: z.enum(['blend', 'spread']).default('blend'),
  /** Length of the blend, or of the spread on each side, seconds. */
  seconds: z.number().min(0.05).max(2).default(0.3),
  /** Take the cycle's turn out; `auto` does so below 20°. */
  heading: z.enum(['auto', 'straight', 'captured']).default('auto'),
  /** What the closed cycle begins with: the cut's own first frame, or the landing of a foot. */
  start: z.enum(['cut', 'left', 'right']).default('cut'),
});
export type LoopParams = z.infer<typeof loopParams>;

/**
 * Closes a loop: the last frame becomes the first, one cycle on (turned and shifted on the floor), without a tick.
 *
 * `blend` leads the motion over into the frames that the take has before the cut (or, from the other side, out of those after
 * it, whichever fit better), so that the seam is as the take itself was. `spread` takes the difference of place and velocity up
 * on both sides of the seam. Either way the seam's own frame is then settled among its neighbours.
 */
export const loop: Step<'loop', LoopParams> = {
  kind: 'loop',
  params: loopParams,
  apply(clip, params) {
    if (clip.loop || clip.travel) return clip;
    const last = clip.motion.frames - 1;
    const cycle = cycleOf(clip.motion);
    const closed =
      (params.close === 'blend' && blendBeyond(clip, cycle, params.seconds)) || spreadDifference(clip.motion, cycle, params.seconds);
    const turn = Math.abs(cycle.turn) < (20 * Math.PI) / 180 || params.heading === 'straight' ? cycle.turn : 0;
    const straight = params.heading === 'captured' ? closed : straighten(closed, turn);
    const left = params.heading === 'captured' ? cycle.turn : cycle.turn - turn;
    repeatFirst(straight, last, left);
    const settled = settleSeam(straight);
    const begun = params.start === 'cut' ? settled : beginWith(settled, params.start);
    alignSigns(begun);
    return { ...clip, motion: begun, loop: true, lead: null, tail: null, contacts: undefined };
  },
};

/** The same cycle from the landing of a foot on; as it is where that foot never lands. */
function beginWith(motion: Motion, side: 'left' | 'right'): Motion {
  const last = motion.frames - 1;
  const cycle = { motion, travel: null };
  const found = gait(repeatLoop(cycle, 3));
  const landing = found?.contacts[side].find(({ from }) => from >= last && from < 2 * last);
  return landing ? cutMotion(repeatLoop(cycle, 2), landing.from - last, landing.from) : motion;
}

/** The turn and shift that lead from the first frame of a cut to its last, by the best alignment of the two. */
export function cycleOf(motion: Motion): FloorTransform {
  const found = gait(motion);
  const last = motion.frames - 1;
  if (found) {
    const { joints, weights } = found.weighted;
    return invert(align(found.globals, 0, last, joints, weights));
  }
  const all = motion.skeleton.joints.map((_, j) => j);
  return invert(
    align(
      forwardKinematics(motion),
      0,
      last,
      all,
      all.map(() => 1 / all.length),
    ),
  );
}

function blendBeyond(clip: Clip, cycle: FloorTransform, seconds: number): Motion | null {
  const { motion, lead, tail } = clip;
  const last = motion.frames - 1;
  const most = Math.min(Math.round(seconds * motion.fps), Math.floor(last / 2));
  const atEnd = lead ? Math.min(most, lead.frames) : 0;
  const atStart = tail ? Math.min(most, tail.frames) : 0;
  const least = Math.min(most, Math.ceil(0.08 * motion.fps));
  const options: Motion[] = [];
  if (lead && atEnd >= least) {
    // Frames −w … 0 of the take, moved one cycle on, to end with.
    const beyond = join(cutMotion(lead, lead.frames - atEnd, lead.frames - 1), cutMotion(motion, 0, 0));
    moveFrames(beyond, cycle);
    options.push(crossfade(motion, beyond, last - atEnd, (t) => smoothStep5(t)));
  }
  if (tail && atStart >= least) {
    // Frames last … last + w, moved one cycle back, to begin with.
    const beyond = join(cutMotion(motion, last, last), cutMotion(tail, 0, atStart - 1));
    moveFrames(beyond, invert(cycle));
    options.push(crossfade(motion, beyond, 0, (t) => 1 - smoothStep5(t)));
  }
  if (options.length === 0) return null;
  return options.reduce((a, b) => (change(b, motion) < change(a, motion) ? b : a));
}

/** How far a blend went from the captured motion: the sum of squared quaternion and root differences. */
function change(a: Motion, b: Motion): number {
  let sum = 0;
  for (let i = 0; i < a.rotations.length; i++) sum += (a.rotations[i] - b.rotations[i]) ** 2;
  for (let i = 0; i < a.rootPositions.length; i++) sum += (a.rootPositions[i] - b.rootPositions[i]) ** 2;
  return sum;
}

function join(a: Motion, b: Motion): Motion {
  const rotations = new Float32Array(a.rotations.length + b.rotations.length);
  rotations.set(a.rotations);
  rotations.set(b.rotations, a.rotations.length);
  const rootPositions = new Float32Array(a.rootPositions.length + b.rootPositions.length);
  rootPositions.set(a.rootPositions);
  rootPositions.set(b.rootPositions, a.rootPositions.length);
  const translations =
    a.translations &&
    new Map(
      [...a.translations].map(([j, t]) => {
        const other = b.translations?.get(j) ?? new Float32Array(b.frames * 3);
        const both = new Float32Array(t.length + other.length);
        both.set(t);
        both.set(other, t.length);
        return [j, both] as const;
      }),
    );
  return { ...a, frames: a.frames + b.frames, rotations, rootPositions, translations };
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

/** Takes a turn out of a cycle evenly: each frame is turned back by its share about the hips, whose way is laid out anew. */
function straighten(motion: Motion, turn: number): Motion {
  if (turn === 0) return motion;
  const out = copyMotion(motion);
  const last = motion.frames - 1;
  const p = motion.rootPositions;
  let x = p[0];
  let z = p[2];
  for (let f = 0; f <= last; f++) {
    if (f > 0) {
      const half = (-turn * (f - 0.5)) / last;
      const dx = p[f * 3] - p[f * 3 - 3];
      const dz = p[f * 3 + 2] - p[f * 3 - 1];
      x += Math.cos(half) * dx + Math.sin(half) * dz;
      z += Math.cos(half) * dz - Math.sin(half) * dx;
    }
    moveFrames(out, { turn: (-turn * f) / last, x: 0, z: 0 }, f, f + 1);
    out.rootPositions[f * 3] = x;
    out.rootPositions[f * 3 + 2] = z;
  }
  return out;
}
