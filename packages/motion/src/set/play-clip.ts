import type { PlayClip, PlayLeg, PlaySkeleton, SolePoint } from '@lantern/drive';
import { bodyOf } from '../anatomy/body-of';
import { foldAbove, topOfBody } from '../anatomy/fold-root';
import { NOT_A_PERSON } from '../anatomy/body';
import { InputError } from '../error';
import { clipContacts } from '../measure/clip-slides';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import type { Clip } from '../model/clip';
import type { Interval } from '../model/contacts';
import type { FixedPoint } from '../model/fixed-point';
import type { Motion } from '../model/motion';
import { travel } from '../steps/travel';

/** What carries the hips is played as the hips: then nothing but joint 0 moves against its parent. */
export const onHips = (motion: Motion): Motion => foldAbove(motion, topOfBody(motion.skeleton, bodyOf(motion)));

/**
 * The skeleton of a clip as the runtime plays it, its soles where they are on this clip.
 *
 * @throws InputError when it is no person's
 */
export function playSkeleton(clip: Clip): PlaySkeleton {
  const { motion: whole } = played(clip);
  const motion = onHips(whole);
  const ground = groundwork(motion);
  const body = bodyOf(motion);
  if (!ground || !body) throw new InputError('body', NOT_A_PERSON);
  const { joints } = motion.skeleton;
  const leg = ({ hip, knee, ankle, toe }: PlayLeg): PlayLeg => ({ hip, knee, ankle, toe });
  const sole = (side: 'left' | 'right'): SolePoint[] => {
    const points = ground.soles.points?.[side];
    const { ankle, toe } = body.legs[side];
    const fixed = ({ joint, local: [x, y, z] }: FixedPoint): SolePoint => ({ joint, x, y, z });
    if (points) return [points.heel, points.ball, points.tip].map(fixed);
    // Where no sole could be found the joints themselves are held.
    return [ankle, toe >= 0 ? toe : ankle].map((joint) => ({ joint, x: 0, y: 0, z: 0 }));
  };
  return {
    names: joints.map(({ name }) => name),
    parents: Int32Array.from(joints, ({ parent }) => parent),
    offsets: Float32Array.from(joints.flatMap(({ offset }) => [...offset])),
    legs: { left: leg(body.legs.left), right: leg(body.legs.right) },
    soles: { left: sole('left'), right: sole('right') },
  };
}

/**
 * A clip as the runtime plays it; one whose travel has not been taken out is put on its root first, with its floor at 0.
 *
 * @param name what it goes by
 */
export function playClip(clip: Clip, name: string): PlayClip {
  const onRoot = clip.travel ? clip : travel.apply(clip, travel.schema.parse({ kind: 'travel', start: 'origin' }), { cast: new Map() });
  const { motion: whole, loop, travel: way } = onRoot;
  const motion = onHips(whole);
  const { fps, frames } = motion;
  const contacts = clipContacts(onRoot);
  const seconds = (all: readonly Interval[] = []) => all.map(({ from, to }) => [from / fps, to / fps] as const);
  const floor = contacts?.floorM ?? 0;
  const root = new Float32Array(frames * 3);
  for (let f = 0; way && f < frames; f++) root.set([way.x[f], way.z[f], way.heading[f]], f * 3);
  return {
    name,
    fps,
    frames,
    loop,
    rotations: motion.rotations,
    hips: motion.rootPositions.map((v, i) => (i % 3 === 1 ? v - floor + (way?.y[Math.floor(i / 3)] ?? 0) : v)),
    root,
    contacts: { left: seconds(contacts?.left), right: seconds(contacts?.right) },
  };
}
