import { InputError } from '../error';
import type { Contacts } from './contacts';
import { fromHeading, multiply, multiplyInverse, rotate } from '../math/quat';
import { copyMotion, cutMotion, type Motion } from './motion';
import type { Travel } from './travel';

/**
 * A cut on its way through the recipe. While `travel` is null, joint 0 of `motion` is in the world; after that it is in the root's
 * space. A loop's last frame is its first, one cycle on.
 */
export interface Clip {
  readonly motion: Motion;
  readonly travel: Travel | null;
  readonly loop: boolean;
  /** Frames of the take before the cut and after it, as far as there are any; what a loop may blend with. */
  readonly lead: Motion | null;
  readonly tail: Motion | null;
  /** When the feet bear, once a step has settled it; frames of the clip, in a loop perhaps beyond its last (they come round). Else it is measured. */
  readonly contacts?: Contacts;
  /** The way over the floor, where a step has laid it out: an entry per frame, in the world. Else it is measured. */
  readonly way?: Travel;
  /** How the loop was closed, how far its ends were apart, metres, and the frame after the cut's first that it begins with. */
  readonly closing?: { readonly way: 'blend' | 'around' | 'spread' | 'none'; readonly gapM: number; readonly start: number };
  /** How its keys are thinned when it is written, if they are: within how many metres, how they are joined, and whether they are written as 16-bit numbers. */
  readonly thin?: { readonly boundM: number; readonly joining: 'straight' | 'smooth'; readonly quantised?: boolean };
  /** What was added to the places of someone captured on the spot, so that he goes while the steps work on him; an entry per frame, metres. */
  readonly belt?: Pick<Travel, 'x' | 'z'>;
}

const CONTEXT_SECONDS = 0.6;

/**
 * Cuts frames `from` to `to`, both included, out of a motion in metres.
 *
 * @example
 * cutClip(motion, 60, 126).motion.frames; // 67
 */
export function cutClip(motion: Motion, from: number, to: number): Clip {
  const context = Math.round(CONTEXT_SECONDS * motion.fps);
  if (to - from < 1) {
    throw new InputError('cut-short', `A clip needs two frames at least; the cut goes from ${from} to ${to}.`, { frame: from });
  }
  return {
    motion: cutMotion(motion, from, to),
    travel: null,
    loop: false,
    lead: from > 0 ? cutMotion(motion, Math.max(0, from - context), from - 1) : null,
    tail: to < motion.frames - 1 ? cutMotion(motion, to + 1, Math.min(motion.frames - 1, to + context)) : null,
  };
}

/**
 * The clip's motion with its travel put back: joint 0 in the world.
 *
 * @example
 * const loop = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'travel' }]) });
 * loop.travel !== null && worldMotion(loop).frames === loop.motion.frames; // true
 */
export function worldMotion({ motion, travel }: Pick<Clip, 'motion' | 'travel'>): Motion {
  if (!travel) return motion;
  const result = cutMotion(motion, 0, motion.frames - 1);
  const joints = motion.skeleton.joints.length;
  for (let f = 0; f < motion.frames; f++) {
    const turn = fromHeading(travel.heading[f]);
    rotate(result.rootPositions, f * 3, turn, 0, motion.rootPositions, f * 3);
    result.rootPositions[f * 3] += travel.x[f];
    result.rootPositions[f * 3 + 1] += travel.y[f];
    result.rootPositions[f * 3 + 2] += travel.z[f];
    multiply(result.rotations, f * joints * 4, turn, 0, motion.rotations, f * joints * 4);
  }
  return result;
}

/** The motion as seen from a way. */
export function toSpaceOf(motion: Motion, way: Travel): Motion {
  const out = copyMotion(motion);
  const joints = motion.skeleton.joints.length;
  const q = [0, 0, 0, 1];
  for (let f = 0; f < motion.frames; f++) {
    const turn = fromHeading(way.heading[f]);
    const p = [
      motion.rootPositions[f * 3] - way.x[f],
      motion.rootPositions[f * 3 + 1] - way.y[f],
      motion.rootPositions[f * 3 + 2] - way.z[f],
    ];
    rotate(out.rootPositions, f * 3, fromHeading(-way.heading[f]), 0, p, 0);
    multiplyInverse(q, 0, turn, 0, motion.rotations, f * joints * 4);
    out.rotations.set(q, f * joints * 4);
  }
  return out;
}
