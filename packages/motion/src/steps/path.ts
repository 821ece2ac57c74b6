import { z } from 'zod';
import { bendWay, type PathShape } from '../edit/bend-way';
import { floorCurve } from '../math/floor-curve';
import { onOtherWay } from './other-way';
import { DEGREES, RADIANS } from '../math/angles';
import { progressOf } from '../measure/progress';
import { wayOf } from '../measure/way';
import type { Clip } from '../model/clip';
import { asItIs, defineStep, stepObject } from './definition';

const metres = z.number().min(-1000).max(1000);

const schema = stepObject('path', {
  /**
   * `straight`; `arc` of `radius`; along `points`; or `turn`ed by `turnDeg` in all, on the spot or on the way. What goes nowhere can only be
   * turned.
   */
  shape: z.enum(['straight', 'arc', 'points', 'turn']).default('straight'),
  /** Metres, positive to the left. */
  radius: metres.refine((r) => Math.abs(r) >= 0.2, 'A radius is 0.2 m at least.').default(3),
  /** Degrees, positive to the left. */
  turnDeg: z.number().min(-1080).max(1080).default(90),
  /** Places on the floor, metres: x to the left of where the clip begins, z ahead of it. */
  points: z
    .array(z.tuple([metres, metres]))
    .max(200)
    .default([]),
  /** How much of the lean that a bend asks for is added: 0 none, 1 all that balance needs. */
  lean: z.number().min(0).max(2).default(0.6),
});
export type PathParams = z.infer<typeof schema>;

/**
 * The clip on another path, its stride kept: each foot planted where the new path passes, pointing as it does, and the body leaning into the
 * bend. A loop stays one, except along points.
 */
export const path = defineStep(schema, {
  title: 'Path',
  about: 'The way straightened, bent or drawn, the feet planted anew.',
  stages: ['way', 'way'],
  create: ({ clip }) => ({
    shape:
      clip && progressOf(clip.way ?? wayOf(clip.motion, clip.loop), clip.motion.fps).isOnTheSpot ? ('turn' as const) : ('arc' as const),
  }),
  mapTime: asItIs,
  otherSide: (step) => ({
    ...step,
    radius: -step.radius,
    turnDeg: -step.turnDeg,
    points: step.points.map(([x, z]) => [-x, z] as [number, number]),
  }),
  report: (before, after) => ({ label: 'turn', unit: '°', digits: 0, before: turned(before), after: turned(after) }),
  apply(clip, params) {
    const shape = shapeOf(params);
    if (!shape) return clip;
    const { fps } = clip.motion;
    return onOtherWay(clip, 'path', params.shape !== 'points', (way) => {
      const bent = bendWay(way, shape, fps);
      const { angle, course } = bent.lean;
      return { way: bent.way, lean: { course, angle: Float64Array.from(angle, (a) => a * params.lean) } };
    });
  },
});

function shapeOf({ shape, radius, turnDeg, points }: PathParams): PathShape | null {
  switch (shape) {
    case 'straight':
      return { kind: 'straight' };
    case 'arc':
      return { kind: 'arc', radius };
    case 'turn':
      return { kind: 'turn', radians: turnDeg * RADIANS };
    case 'points':
      return points.length > 0 ? { kind: 'curve', curve: floorCurve(points) } : null;
  }
}

/** How far a clip turns from its first frame to its last, degrees. */
function turned(clip: Clip): number {
  const { heading } = clip.way ?? wayOf(clip.motion, clip.loop);
  return (heading[heading.length - 1] - heading[0]) * DEGREES;
}
