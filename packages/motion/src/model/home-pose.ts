import { z } from 'zod';
import type { Vec3 } from '../math/quat';
import { createMotion, type Motion } from './motion';
import type { Skeleton } from './skeleton';

const number = z.number().min(-1000).max(1000);

/**
 * A pose in which the ends of a set's clips meet, put on the floor where the body stands and facing +Z: what joint 0 is turned by in the world and
 * how high it is over the floor, and what every other joint is turned by against its parent; `x y z w`, by joint names.
 */
export const homePoseSchema = z.object({
  heightM: number,
  turns: z.record(z.string().min(1).max(200), z.tuple([number, number, number, number])),
  /** Where joints are against their parents that move there, metres. */
  places: z.record(z.string().min(1).max(200), z.tuple([number, number, number])).optional(),
});
export type HomePose = z.infer<typeof homePoseSchema>;

/**
 * The pose on a skeleton, as a motion of one frame; joints that it does not name are in the rest pose.
 *
 * @param at where joint 0 is on the floor, and the level of the floor, metres
 */
export function homeMotion(pose: HomePose, skeleton: Skeleton, fps: number, at: Vec3 = [0, 0, 0]): Motion {
  const motion = createMotion(skeleton, fps, 1);
  skeleton.joints.forEach(({ name, restRotation }, j) => motion.rotations.set(pose.turns[name] ?? restRotation, j * 4));
  motion.rootPositions.set([at[0], at[1] + pose.heightM, at[2]]);
  const places = Object.entries(pose.places ?? {}).flatMap(([name, place]) => {
    const j = skeleton.joints.findIndex((joint) => joint.name === name);
    return j > 0 ? [[j, Float32Array.from(place)] as const] : [];
  });
  return places.length > 0 ? { ...motion, translations: new Map(places) } : motion;
}
