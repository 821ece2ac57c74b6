import { pairDistance, pairSide, commonParts, windowOf } from '../find/pair-distances';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import { phases } from '../measure/strides';
import type { Clip } from '../model/clip';

/** Where a start leaves into the loop of its gait, or a stop comes from it. */
export interface LoopMeeting {
  readonly loop: string;
  readonly end: 'first' | 'last';
  /** Phase of the loop, 0 at a left landing; null for a loop without steps. */
  readonly phase: number | null;
  readonly frame: number;
  readonly cm: number;
  /** Speed of the loop, and of the clip at that end, metres a second. */
  readonly loopMps: number;
  readonly endMps: number;
}

/**
 * The instant of a loop that an end of a clip is nearest to, as pose distance with its velocities.
 *
 * @param loopMps speed of the loop, as it is measured
 */
export function meetsLoop(
  clip: Clip,
  end: 'first' | 'last',
  loop: Clip,
  name: string,
  loopMps: number,
  endMps: number,
): LoopMeeting | null {
  const [a, b] = [played(clip), played(loop)];
  const [ga, gb] = [groundwork(a.motion), groundwork(b.motion)];
  if (!ga || !gb || a.motion.fps !== b.motion.fps) return null;
  const parts = commonParts(ga, gb);
  const [pa, pb] = [pairSide(ga, parts), pairSide(gb, parts)];
  const window = windowOf(a.motion.fps);
  const at = a.start + (end === 'first' ? 0 : clip.motion.frames - 1);
  const last = loop.motion.frames - 1;
  let [best, cm] = [0, Infinity];
  for (let f = 0; f < last; f++) {
    const distance = 100 * pairDistance(pa, at, pb, b.start + f, window);
    if (distance < cm) [best, cm] = [f, distance];
  }
  const phase = phases(gb.contacts, b.motion.frames);
  return { loop: name, end, phase: phase && phase[b.start + best], frame: best, cm, loopMps, endMps };
}
