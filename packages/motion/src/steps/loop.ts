import { z } from 'zod';
import { align } from '../measure/align';
import { groundwork } from '../measure/groundwork';
import { eighthNearest } from '../measure/seam';
import { invert, moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { alignSigns, copyMotion, cutMotion, type Motion } from '../model/motion';
import { repeatLoop } from '../model/repeat';
import { closeCycle } from './close-cycle';
import { repeatFirst } from './repeat-first';
import { settleSeam } from './settle';
import { tick } from '../measure/tick';
import { mapFrame } from '../model/frame-map';
import { RADIANS } from '../math/angles';
import { defineStep, stepObject } from './definition';
import { series } from '../math/series';

const schema = stepObject('loop', {
  /**
   * `blend` with the frames of the take beyond the cut (without such frames: `around`); `around` the seam, where the difference decays to
   * both sides; `spread` the difference evenly over the whole cycle.
   */
  close: z.enum(['blend', 'around', 'spread']).default('blend'),
  /** Length of the blend, or of the decay on each side, seconds. */
  seconds: z.number().min(0.05).max(2).default(0.3),
  /** Take the cycle's turn out; `auto` does so below 20°. */
  heading: z.enum(['auto', 'straight', 'captured']).default('auto'),
  /** `held`: the cycle ends as high as it began; `captured`: it climbs as it did, as up a stair. */
  height: z.enum(['held', 'captured']).default('held'),
  /** `dropped`: what the cycle drifts at right angles to its direction of travel is taken out of it. */
  sideways: z.enum(['captured', 'dropped']).default('captured'),
  /**
   * What the closed cycle begins with: the cut's own first frame, the landing of a foot, the middle of its stance, or so many frames after
   * the cut's first.
   */
  start: z.union([z.enum(['cut', 'left', 'right', 'left-stance', 'right-stance']), z.int().min(0).max(1e6)]).default('cut'),
});
export type LoopParams = z.infer<typeof schema>;

/**
 * Closes a loop: the last frame becomes the first, one cycle on (turned and shifted on the floor), without a tick.
 *
 * `blend` leads the motion over into the frames that the take has before the cut (or, from the other side, out of those after
 * it, whichever fit better), so that the seam is as the take itself was; where those frames go elsewhere, it is closed around the seam instead.
 * `around` takes the difference of place and velocity up on both sides of the seam, `spread` that of place over the whole cycle. Either way the
 * seam's own frame is then settled among its neighbours, and no joint is moved much further than the ends were
 * apart: what comes round by itself is left as it is.
 */
export const loop = defineStep(schema, {
  title: 'Loop',
  about: 'The last frame made the first, one cycle on.',
  stages: ['cycle', 'cycle'],
  once: true,
  countsAnew: ({ start }) => typeof start === 'string' && start !== 'cut',
  create: () => ({}),
  mapTime: (step, time) => (typeof step.start === 'number' ? { ...step, start: mapFrame(time, step.start) } : step),
  otherSide: (step) => ({ ...step, start: OTHER_START.get(step.start) ?? step.start }),
  sourceFrames: (before, after) => {
    const last = before.motion.frames - 1;
    const by = before.loop || before.travel ? 0 : (after.closing?.start ?? 0);
    // A cycle that begins elsewhere than its cut does comes round to what is before that.
    return series(last + 1, (f) => (by > 0 ? (f + by) % last : f));
  },
  report: (_, after) => ({ label: 'tick', figure: 'tick', unit: '', digits: 2, before: null, after: after.loop ? tick(after) : null }),
  apply(clip, params) {
    if (clip.loop || clip.travel) return clip;
    const { motion } = clip;
    const last = motion.frames - 1;
    const p = motion.rootPositions;
    const climb = params.height === 'captured' ? p[last * 3 + 1] - p[1] : 0;
    const cycle = { ...cycleOf(motion), y: climb };
    const { motion: closed, way, gapM } = closeCycle(clip, cycle, params.close, params.seconds);
    const turn = Math.abs(cycle.turn) < 20 * RADIANS || params.heading === 'straight' ? cycle.turn : 0;
    const straight = params.heading === 'captured' ? closed : straighten(closed, turn);
    const left = params.heading === 'captured' ? cycle.turn : cycle.turn - turn;
    const held = params.sideways === 'dropped' ? withoutDrift(straight, left) : copyMotion(straight);
    repeatFirst(held, last, left, climb);
    const settled = way === 'none' ? held : settleSeam(held, gapM < NEARLY ? gapM : SETTLES * gapM);
    const { motion: begun, start } = beginWith(settled, params.start);
    alignSigns(begun);
    return {
      ...clip,
      motion: begun,
      loop: true,
      lead: null,
      tail: null,
      way: undefined,
      contacts: undefined,
      closing: { way, gapM, start },
    };
  },
});

const OTHER_START: ReadonlyMap<LoopParams['start'], LoopParams['start']> = new Map([
  ['left', 'right'],
  ['right', 'left'],
  ['left-stance', 'right-stance'],
  ['right-stance', 'left-stance'],
]);

/** A cycle that nearly comes round by itself, metres, is drawn no further than its gap; another, whose seam may lie in a footfall, so many times it. */
const NEARLY = 0.003;
const SETTLES = 2.5;

/** The same cycle from another of its frames on; as it is where the foot asked for never lands. */
function beginWith(motion: Motion, start: LoopParams['start']): { motion: Motion; start: number } {
  const last = motion.frames - 1;
  const cycle = { motion, travel: null };
  const from = typeof start === 'number' ? start % last : startFrame(cycle, start, last);
  return from ? { motion: cutMotion(repeatLoop(cycle, 2), from, from + last), start: from } : { motion, start: 0 };
}

function startFrame(cycle: Parameters<typeof repeatLoop>[0], start: Exclude<LoopParams['start'], number>, last: number): number | null {
  if (start === 'cut') return 0;
  const side = start.startsWith('left') ? 'left' : 'right';
  const stance = groundwork(repeatLoop(cycle, 3))?.contacts[side].find(({ from }) => from >= last && from < 2 * last);
  if (!stance) return null;
  return (start === side ? stance.from : Math.round((stance.from + stance.to) / 2)) % last;
}

/** A cycle without its displacement at right angles to its direction of travel, taken out evenly. One that turns has none. */
function withoutDrift(motion: Motion, turn: number): Motion {
  const found = groundwork(motion);
  const out = copyMotion(motion);
  if (!found || Math.abs(turn) > 1e-3) return out;
  const last = motion.frames - 1;
  const p = out.rootPositions;
  const [dx, dz] = [p[last * 3] - p[0], p[last * 3 + 2] - p[2]];
  let [sx, sz] = [0, 0];
  for (const heading of found.headings) [sx, sz] = [sx + Math.sin(heading), sz + Math.cos(heading)];
  const course = eighthNearest(Math.atan2(sx, sz), dx, dz);
  const drift = dx * Math.cos(course) - dz * Math.sin(course);
  for (let f = 1; f <= last; f++) {
    p[f * 3] -= (Math.cos(course) * drift * f) / last;
    p[f * 3 + 2] += (Math.sin(course) * drift * f) / last;
  }
  return out;
}

/** The turn and shift that lead from the first frame of a cut to its last, by the best alignment of the two. */
export function cycleOf(motion: Motion): FloorTransform {
  const found = groundwork(motion);
  const last = motion.frames - 1;
  if (found) {
    const { joints, weights } = found.weighted;
    return invert(align(found.globals, 0, last, joints, weights));
  }
  const all = motion.skeleton.joints.map((_, j) => j);
  return invert(
    align(
      forwardKinematics(motion),
      0,
      last,
      all,
      all.map(() => 1 / all.length),
    ),
  );
}

/** Takes a turn out of a cycle evenly: each frame is turned back by its share about the hips, whose way is laid out anew. */
function straighten(motion: Motion, turn: number): Motion {
  if (turn === 0) return motion;
  const out = copyMotion(motion);
  const last = motion.frames - 1;
  const p = motion.rootPositions;
  let x = p[0];
  let z = p[2];
  for (let f = 0; f <= last; f++) {
    if (f > 0) {
      const half = (-turn * (f - 0.5)) / last;
      const dx = p[f * 3] - p[f * 3 - 3];
      const dz = p[f * 3 + 2] - p[f * 3 - 1];
      x += Math.cos(half) * dx + Math.sin(half) * dz;
      z += Math.cos(half) * dz - Math.sin(half) * dx;
    }
    moveFrames(out, { turn: (-turn * f) / last, x: 0, z: 0 }, f, f + 1);
    out.rootPositions[f * 3] = x;
    out.rootPositions[f * 3 + 2] = z;
  }
  return out;
}
