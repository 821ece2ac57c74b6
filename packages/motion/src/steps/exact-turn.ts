import { z } from 'zod';
import { DEGREES, RADIANS } from '../math/angles';
import { emptyTravel } from '../model/travel';
import type { Clip } from '../model/clip';
import { asItIs, defineStep, stepObject } from './definition';
import { changedInSwings, endToEnd } from './exact';

/** Angles that games ask for. */
const USUAL = [45, 90, 135, 180];

const schema = stepObject('exact-turn', {
  /** From the first frame to the last, degrees, positive to the left. */
  turnDeg: z.number().min(-720).max(720).default(90),
});
export type ExactTurnParams = z.infer<typeof schema>;

/** A turn brought to exactly an angle: what lacks, or is too much, comes while feet are in the air, so that no planted foot moves. */
export const exactTurn = defineStep(schema, {
  title: 'Exact turn',
  about: 'Turned by exactly an angle, planted feet left alone.',
  stages: ['way', 'way'],
  create: ({ clip }) => ({ turnDeg: clip ? nearestAngle(turnOf(clip) ?? 90) : 90 }),
  mapTime: asItIs,
  otherSide: (step) => ({ ...step, turnDeg: -step.turnDeg }),
  report: (before, after) => ({ label: 'turn', unit: '°', digits: 1, before: turnOf(before), after: turnOf(after) }),
  apply(clip, { turnDeg }) {
    const now = endToEnd(clip);
    if (!now) return clip;
    const lack = turnDeg * RADIANS - now.turn;
    return changedInSwings(
      clip,
      'exact-turn',
      ({ heading }) => heading.map((h, f) => (f > 0 ? Math.abs(h - heading[f - 1]) : 0)),
      (way, share) => {
        const out = emptyTravel(way.x.length);
        const turned = (f: number) => lack * share[f];
        for (let f = 0; f < out.x.length; f++) {
          out.y[f] = way.y[f];
          out.heading[f] = way.heading[f] + turned(f);
          const [dx, dz] = f > 0 ? [way.x[f] - way.x[f - 1], way.z[f] - way.z[f - 1]] : [way.x[0], way.z[0]];
          const by = f > 0 ? (turned(f) + turned(f - 1)) / 2 : 0;
          out.x[f] = (f > 0 ? out.x[f - 1] : 0) + Math.cos(by) * dx + Math.sin(by) * dz;
          out.z[f] = (f > 0 ? out.z[f - 1] : 0) + Math.cos(by) * dz - Math.sin(by) * dx;
        }
        return out;
      },
    );
  },
});

const turnOf = (clip: Clip): number | null => {
  const found = endToEnd(clip);
  return found && found.turn * DEGREES;
};

function nearestAngle(deg: number): number {
  const angle = USUAL.reduce((best, own) => (Math.abs(own - Math.abs(deg)) < Math.abs(best - Math.abs(deg)) ? own : best));
  return deg < 0 ? -angle : angle;
}
