import { overSwings } from '../edit/over-swings';
import { InputError } from '../error';
import { worldMotion, type Clip } from '../model/clip';
import type { Interval } from '../model/contacts';
import { groundwork } from '../measure/groundwork';
import type { Travel } from '../model/travel';
import { onOtherWay } from './other-way';

/**
 * A clip on a way that differs from its own by something that comes bit by bit while a foot is in the air: what turning to an angle and going for a
 * distance have in common. Feet that stand at the first frame and at the last stand where the body begins and ends.
 *
 * @param does how much of it the clip does itself in every frame; the more, the more comes there
 * @param change the new way, given how much of the change has come by every frame, 0 to 1
 */
export function changedInSwings(
  clip: Clip,
  step: string,
  does: (way: Travel) => ArrayLike<number>,
  change: (way: Travel, share: Float64Array) => Travel,
): Clip {
  const last = clip.motion.frames - 1;
  if (clip.loop) throw new InputError('order', `The ${step} step is for clips that begin and end; this one is a loop.`);
  return onOtherWay(clip, step, false, (way, contacts) => {
    const share = overSwings(contacts, does(way));
    if (!share) throw new InputError(step, 'No foot leaves the floor, so nothing can be moved without a foot sliding.');
    const placedAt = ({ from, to }: Interval) => (from === 0 && to <= last ? 0 : from > 0 && to > last ? last : (from + to) >> 1);
    return { way: change(way, share), lean: null, placedAt };
  });
}

/** What a clip does from its first frame to its last: radians that the body turns by, metres that the hips go on the floor, and their direction. */
export interface EndToEnd {
  readonly turn: number;
  readonly metres: number;
  readonly x: number;
  readonly z: number;
}

/** @returns null for what is no person */
export function endToEnd(clip: Pick<Clip, 'motion' | 'travel'>): EndToEnd | null {
  const ground = groundwork(worldMotion(clip));
  if (!ground) return null;
  const { headings, globals, body } = ground;
  const last = clip.motion.frames - 1;
  const gone = (k: number) => globals.positions[(last * globals.joints + body.hips) * 3 + k] - globals.positions[body.hips * 3 + k];
  const [dx, dz] = [gone(0), gone(2)];
  const metres = Math.hypot(dx, dz);
  return { turn: headings[last] - headings[0], metres, x: dx / (metres || 1), z: dz / (metres || 1) };
}
