import type { Clip } from '../model/clip';
import { jointWay, WAY_WIDTH } from '../model/joint-way';
import { played } from './played';
import { smoothness, type Smoothness } from './smoothness';

/** Frames on both sides of a loop's seam that a kink at it is told from. */
const BESIDE = 3;

/**
 * How smoothly a joint goes through a clip; of a loop also over its seam. Kinks are told in frames of the clip.
 *
 * @param joint its number
 * @param captured the same clip as it was captured, to be held beside it
 *
 * @example
 * clipSmoothness(run({ from: best.from, to: best.to, steps: [] }), 0).kinks.length <= 3; // true
 */
export function clipSmoothness(clip: Clip, joint: number, captured: Clip = clip): Smoothness {
  const way = wayOf(clip, joint);
  const { ratio, kinks } = smoothness(way.points, clip.motion.fps, captured === clip ? way.points : wayOf(captured, joint).points);
  const last = clip.motion.frames - 1;
  const own = (frame: number) => (clip.loop ? (frame + way.first + last) % last : frame);
  return { ratio, kinks: kinks.map((kink) => ({ ...kink, frame: own(kink.frame) })) };
}

/** Three numbers a frame, and the frame of the clip that they begin with. */
function wayOf(clip: Clip, joint: number): { readonly points: Float32Array; readonly first: number } {
  const { motion, start } = played(clip);
  const [from, to] = [Math.max(0, start - BESIDE), Math.min(motion.frames - 1, start + clip.motion.frames - 1 + BESIDE)];
  const way = jointWay(motion, joint);
  const points = new Float32Array((to - from + 1) * 3);
  for (let f = from; f <= to; f++) points.set(way.subarray(f * WAY_WIDTH, f * WAY_WIDTH + 3), (f - from) * 3);
  return { points, first: from - start };
}
