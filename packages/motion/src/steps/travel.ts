import { z } from 'zod';
import { groundwork } from '../measure/groundwork';
import { wayOf } from '../measure/way';
import { emptyTravel, type Travel } from '../model/travel';
import { toSpaceOf, worldMotion } from '../model/clip';
import { leading, movePoint } from '../model/floor-transform';
import { alignSigns, type Motion } from '../model/motion';
import { rootToHipsCm } from '../measure/root-to-hips';
import { asItIs, defineStep, stepObject } from './definition';

const where = z.enum(['root', 'body', 'drop']);
export type Where = z.infer<typeof where>;

const schema = stepObject('travel', {
  forward: where.default('root'),
  sideways: where.default('root'),
  heading: where.default('root'),
  height: where.default('body'),
  /** Whose way it is: that of the hips, the centre of mass, or the mean of the feet. */
  of: z.enum(['hips', 'mass', 'feet']).default('hips'),
  /** How the way is smoothed; `auto`: even for a loop, over a stride for everything else. */
  smooth: z.enum(['auto', 'even', 'stride', 'captured']).default('auto'),
  /** `origin`: the first frame's root stands at the origin, on the floor, and faces +Z. `captured`: every joint stays where it was in the world. */
  start: z.enum(['captured', 'origin']).default('captured'),
});
export type TravelParams = z.infer<typeof schema>;

/**
 * Takes the way over the ground out of a clip and gives it to the root. The way is what remains of the hips' when a stride's
 * own sway and ripple are averaged out; of a loop it is exactly even: a straight line, or an arc. Each of forward, sideways,
 * heading and height goes to the root, stays in the body, or is dropped; dropping nothing leaves every joint where it was.
 *
 * A mover's root faces along one of the eight directions to its travel, so that a forward loop has no drift.
 */
export const travel = defineStep(schema, {
  title: 'Travel',
  about: 'The way over the ground given to the root.',
  stages: ['root', 'root'],
  once: true,
  create: () => ({ start: 'origin' as const }),
  mapTime: asItIs,
  otherSide: asItIs,
  report: (_, after) => ({
    label: 'hips to root',
    unit: 'cm',
    digits: 1,
    before: null,
    after: after.travel ? rootToHipsCm(after.motion) : null,
  }),
  apply(clip, params) {
    if (clip.travel) return clip;
    const isUsual = params.of === 'hips' && params.smooth === 'auto';
    const trend = (isUsual && clip.way) || wayOf(clip.motion, clip.loop, { of: params.of, smooth: params.smooth });
    const kept = layOut(trend, (part) => params[part] !== 'drop');
    // A loop that climbs could not come round with its climb in the body.
    const climbs = clip.loop && Math.abs(trend.y[trend.y.length - 1]) > 1e-4;
    const root = layOut(trend, (part) => params[part] === 'root' || (part === 'height' && climbs && params.height === 'body'));
    const relative = toSpaceOf(clip.motion, trend);
    const world = worldMotion({ motion: relative, travel: kept });
    const motion = toSpaceOf(world, root);
    if (clip.loop && kept.x.length > 1) closeExactly(motion, params);
    alignSigns(motion);
    if (params.start === 'captured') return { ...clip, motion, travel: root, way: undefined };
    // The root stands on the floor, wherever the suit believed the floor to be.
    const floor = groundwork(clip.motion)?.soles.floor ?? 0;
    for (let f = 0; f < motion.frames; f++) motion.rootPositions[f * 3 + 1] -= floor;
    const contacts = clip.contacts && { ...clip.contacts, floorM: clip.contacts.floorM - floor };
    return { ...clip, motion, ...(contacts && { contacts }), travel: toOrigin(root), way: undefined };
  },
});

type Part = 'forward' | 'sideways' | 'heading' | 'height';

/** A way made of some parts of another, begun at the same place; with all parts it is the other itself. */
function layOut(trend: Travel, keeps: (part: Part) => boolean): Travel {
  const parts = { forward: keeps('forward'), sideways: keeps('sideways'), heading: keeps('heading'), height: keeps('height') };
  const n = trend.x.length;
  const out = emptyTravel(n);
  const all = parts.forward && parts.sideways && parts.heading;
  for (let f = 0; f < n; f++) {
    out.y[f] = parts.height ? trend.y[f] : 0;
    out.heading[f] = parts.heading ? trend.heading[f] : trend.heading[0];
    if (f === 0 || all) {
      out.x[f] = trend.x[f];
      out.z[f] = trend.z[f];
      continue;
    }
    // Progress in the way's own directions, laid down in those of the new one.
    const h = (trend.heading[f] + trend.heading[f - 1]) / 2;
    const dx = trend.x[f] - trend.x[f - 1];
    const dz = trend.z[f] - trend.z[f - 1];
    const forward = parts.forward ? dx * Math.sin(h) + dz * Math.cos(h) : 0;
    const left = parts.sideways ? dx * Math.cos(h) - dz * Math.sin(h) : 0;
    const g = (out.heading[f] + out.heading[f - 1]) / 2;
    out.x[f] = out.x[f - 1] + forward * Math.sin(g) + left * Math.cos(g);
    out.z[f] = out.z[f - 1] + forward * Math.cos(g) - left * Math.sin(g);
  }
  return out;
}

/** In place: what is still in the body comes round to the very numbers of the first frame. */
function closeExactly(motion: Motion, params: TravelParams): void {
  const joints = motion.skeleton.joints.length;
  const last = motion.frames - 1;
  if (params.heading !== 'body') motion.rotations.copyWithin(last * joints * 4, 0, joints * 4);
  if (params.heading !== 'body' && params.forward !== 'body' && params.sideways !== 'body') {
    motion.rootPositions[last * 3] = motion.rootPositions[0];
    motion.rootPositions[last * 3 + 2] = motion.rootPositions[2];
  }
  motion.translations?.forEach((t) => t.copyWithin(last * 3, 0, 3));
}

/** The way moved and turned so that it begins at the origin, facing +Z. */
function toOrigin(way: Travel): Travel {
  const n = way.x.length;
  const out = emptyTravel(n);
  const home = leading({ x: way.x[0], z: way.z[0] }, { x: 0, z: 0 }, -way.heading[0]);
  const at = [0, 0, 0];
  for (let f = 0; f < n; f++) {
    movePoint(at, 0, home, [way.x[f], way.y[f], way.z[f]], 0);
    [out.x[f], out.y[f], out.z[f]] = at;
    out.heading[f] = way.heading[f] - way.heading[0];
  }
  return out;
}
