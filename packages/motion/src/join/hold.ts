import { lockFeet } from '../edit/lock-feet';
import { reachFeet } from '../edit/reach-feet';
import { movingAverage } from '../math/filter';
import { groundwork } from '../measure/groundwork';
import { sinkIn, slides } from '../measure/slide';
import type { Soles } from '../measure/soles';
import type { Body, Side } from '../model/body';
import type { Contacts, Interval } from '../model/contacts';
import { followPoint } from '../model/fixed-point';
import { cutMotion, type Motion } from '../model/motion';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { series } from '../math/series';

/** A foot that was held is led back over so much, and to where it is held, seconds. */
const BLEND = 0.18;

/** Feet that still slide are held once more, so often. */
const ROUNDS = 2;
/** A foot that slides no more than this in a contact is left as it is, centimetres. */
const STILL = 0.1;
/** A foot that is planted in both pieces, at places further apart than this, takes a step from the one to the other, metres. */
const STEP = 0.03;
/** How high it is lifted for it, metres, and as a share of how far it goes. */
const LIFT = 0.02;
const LIFT_SHARE = 0.18;

/** What is lifted out of the ground at the end of an overlap dies out over so much, seconds. */
const EDGE = 0.1;
/** So little is not lifted, metres. */
const UNFELT = 0.0003;
/** A sole that is no deeper in the ground than this is left there, metres. */
const SUNK = 0.002;

/**
 * A motion whose planted feet are held in the contacts that reach into an overlap; outside of those contacts and what leads to them nothing is changed, to
 * the bit. Soles that the overlap would bring under the ground are lifted out of it.
 *
 * @param overlap first and last frame
 * @param ground its level in a frame, metres
 */
export function holdThrough(
  motion: Motion,
  contacts: Contacts,
  [first, last]: readonly [number, number],
  ground: (frame: number) => number,
): Motion {
  const found = groundwork(motion);
  const points = found?.soles.points;
  if (!found || !points) return motion;
  const slid = slides(found.soles, contacts);
  const reaches = (side: Side) => (own: Interval) =>
    own.from <= last &&
    own.to > first &&
    slid.some((slide) => slide.side === side && slide.from === own.from && slide.to === own.to && slide.excursionCm > STILL);
  const held = { left: contacts.left.filter(reaches('left')), right: contacts.right.filter(reaches('right')) };
  const sinks = sinkIn(found.soles, first, last + 1, ground) > SUNK * 100;
  const all = [...held.left, ...held.right, ...(sinks ? [{ from: first, to: last }] : [])];
  if (all.length === 0) return motion;
  const beside = Math.ceil(BLEND * motion.fps) + 2;
  const from = Math.max(0, Math.min(...all.map((own) => own.from)) - beside);
  const to = Math.min(motion.frames - 1, Math.max(...all.map((own) => own.to)) + beside);
  const stretch = cutMotion(motion, from, to);
  const moved = (own: Interval): Interval => ({ from: own.from - from, to: own.to - from });
  const solesIn = (_: Motion, globals: Globals): Soles => {
    const foot = (side: 'left' | 'right') => ({
      heel: followPoint(globals, points[side].heel),
      ball: followPoint(globals, points[side].ball),
      tip: followPoint(globals, points[side].tip),
    });
    return { floor: found.soles.floor, left: foot('left'), right: foot('right'), points };
  };
  const within = groundwork(stretch);
  if (!within) return motion;
  const own = { ...contacts, left: held.left.map(moved), right: held.right.map(moved) };
  const options = { blend: BLEND, hips: true, level: false };
  let still = stretch;
  for (let again = 0; again < ROUNDS; again++) {
    const globals = forwardKinematics(still);
    const walker = { motion: still, globals, body: found.body, soles: solesIn(still, globals) };
    if (again > 0 && slides(walker.soles, own).every(({ excursionCm }) => excursionCm < STILL)) break;
    still = lockFeet(walker, own, options, 2, solesIn);
  }
  const bearing = { ...contacts, left: contacts.left.map(moved), right: contacts.right.map(moved) };
  const stepped = liftSteps(still, found.body, own, [first - from, last - from]);
  const locked = sinks ? liftOut(stepped, found.body, bearing, solesIn, [first - from, last - from], (f) => ground(f + from)) : stepped;
  const out = cutMotion(motion, 0, motion.frames - 1);
  out.rotations.set(locked.rotations, from * motion.skeleton.joints.length * 4);
  out.rootPositions.set(locked.rootPositions, from * 3);
  return out;
}

/** Feet that go from one contact to the next in the overlap along the floor are lifted on their way. */
function liftSteps(motion: Motion, body: Body, contacts: Contacts, [first, last]: readonly [number, number]): Motion {
  const globals = forwardKinematics(motion);
  const targets = { left: anklesOf(globals, body, 'left'), right: anklesOf(globals, body, 'right') };
  let isLifted = false;
  for (const side of ['left', 'right'] as const) {
    const all = contacts[side];
    for (let i = 0; i + 1 < all.length; i++) {
      const [from, to] = [all[i].to - 1, all[i + 1].from];
      if (to - from < 2 || to < first || from > last) continue;
      const at = targets[side];
      const way = Math.hypot(at[to * 3] - at[from * 3], at[to * 3 + 2] - at[from * 3 + 2]);
      const ground = Math.max(at[from * 3 + 1], at[to * 3 + 1]);
      let highest = 0;
      for (let f = from; f <= to; f++) highest = Math.max(highest, at[f * 3 + 1] - ground);
      const lift = LIFT + LIFT_SHARE * way - highest;
      if (way < STEP || lift <= 0) continue;
      isLifted = true;
      for (let f = from + 1; f < to; f++) at[f * 3 + 1] += lift * Math.sin((Math.PI * (f - from)) / (to - from)) ** 2;
    }
  }
  if (!isLifted) return motion;
  const out = cutMotion(motion, 0, motion.frames - 1);
  reachFeet(out, globals, body, targets, false);
  return out;
}

/** Soles of feet that do not bear are lifted out of the ground, in the overlap; to both sides of it what is lifted dies out. */
function liftOut(
  motion: Motion,
  body: Body,
  contacts: Contacts,
  solesIn: (motion: Motion, globals: Globals) => Soles,
  [first, last]: readonly [number, number],
  ground: (frame: number) => number,
): Motion {
  const globals = forwardKinematics(motion);
  const targets = { left: anklesOf(globals, body, 'left'), right: anklesOf(globals, body, 'right') };
  const soles = solesIn(motion, globals);
  const edge = Math.max(1, Math.round(EDGE * motion.fps));
  const isLifted = new Uint8Array(motion.frames);
  for (const side of ['left', 'right'] as const) {
    const { heel, ball, tip } = soles[side];
    const depth = series(motion.frames, (f) => {
      // Where a contact begins or ends the foot is still on its way.
      const bears = Math.max(0, ...contacts[side].map(({ from, to }) => Math.min(f - from + 1, to - f) / edge));
      const outside = Math.max(first - f, f - last, 0);
      const under = ground(f) - Math.min(heel[f * 3 + 1], ball[f * 3 + 1], tip[f * 3 + 1]);
      return Math.max(0, under) * Math.max(0, 1 - outside / edge) * Math.max(0, 1 - bears);
    });
    movingAverage(depth, edge).forEach((lift, f) => {
      if (lift < UNFELT) return;
      targets[side][f * 3 + 1] += lift;
      isLifted[f] = 1;
    });
  }
  const out = cutMotion(motion, 0, motion.frames - 1);
  reachFeet(out, globals, body, targets, false);
  // A leg that is reached with is never quite straight: where nothing was lifted, nothing is changed.
  const stride = motion.skeleton.joints.length * 4;
  isLifted.forEach((is, f) => {
    if (!is) out.rotations.set(motion.rotations.subarray(f * stride, (f + 1) * stride), f * stride);
  });
  return out;
}

function anklesOf({ positions, joints, frames }: Globals, { legs }: Body, side: Side): Float64Array {
  const out = new Float64Array(frames * 3);
  for (let f = 0; f < frames; f++) for (let k = 0; k < 3; k++) out[f * 3 + k] = positions[(f * joints + legs[side].ankle) * 3 + k];
  return out;
}
