import { z } from 'zod';
import { wayOf } from '../measure/way';
import { repeatWay, type Travel } from '../model/travel';
import type { Contacts, Interval } from '../model/contacts';
import { progressOf } from '../measure/progress';
import type { Clip } from '../model/clip';
import { cutMotion } from '../model/motion';
import { repeatLoop } from '../model/repeat';
import { asItIs, defineStep, stepObject } from './definition';
import { lasts } from './reports';

/** Most frames that a cycle is walked on for. */
const MOST = 60_000;

const schema = stepObject('extend', {
  /** How often the cycle is walked. */
  cycles: z.int().min(1).max(200).default(4),
  /** Walk on until so many metres are covered, to the frame; the result is no loop then. Takes the place of `cycles`. */
  metres: z.number().min(0.1).max(500).optional(),
});
export type ExtendParams = z.infer<typeof schema>;

/** A cycle walked on: so often, and still a loop, or for a distance. What does not loop is left as it is. */
export const extend = defineStep(schema, {
  title: 'Walk on',
  about: 'A cycle walked several times, or for a distance.',
  stages: ['way', 'way'],
  create: () => ({}),
  mapTime: asItIs,
  otherSide: asItIs,
  sourceFrames: (before, after) =>
    Float64Array.from(
      { length: after.motion.frames },
      (_, f) => f % Math.max(1, before.loop ? before.motion.frames - 1 : after.motion.frames),
    ),
  report: lasts,
  apply(clip, { cycles, metres }) {
    if (!clip.loop || clip.travel) return clip;
    const last = clip.motion.frames - 1;
    const most = Math.max(1, Math.floor(MOST / last));
    const way = clip.way ?? wayOf(clip.motion, true);
    const distance = progressOf(way, clip.motion.fps).distance[last];
    if (metres === undefined || distance < 0.01) return times(clip, way, Math.min(cycles, most));
    const whole = Math.min(most, Math.ceil(metres / distance - 1e-9));
    const end = Math.max(1, Math.min(whole * last, Math.round((metres / distance) * last)));
    const long = times(clip, way, whole);
    const cut = (values: Float64Array) => values.slice(0, end + 1);
    const { x, y, z, heading } = repeatWay(way, whole);
    return {
      ...long,
      loop: false,
      motion: cutMotion(long.motion, 0, end),
      way: { x: cut(x), y: cut(y), z: cut(z), heading: cut(heading) },
    };
  },
});

function times(clip: Clip, way: Travel, cycles: number): Clip {
  const last = clip.motion.frames - 1;
  const { contacts } = clip;
  const round = (all: readonly Interval[]) =>
    Array.from({ length: cycles }, (_, k) => all.map(({ from, to }) => ({ from: from + k * last, to: to + k * last }))).flat();
  const all: Contacts | undefined = contacts && { ...contacts, left: round(contacts.left), right: round(contacts.right) };
  return { ...clip, motion: repeatLoop(clip, cycles), way: repeatWay(way, cycles), contacts: all };
}
