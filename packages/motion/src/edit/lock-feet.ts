import { lowPass } from '../math/filter';
import { smoothStep5 } from '../math/smooth';
import { spreadOut } from '../math/spread-out';
import { median } from '../math/statistics';
import type { Contacts, Interval } from '../model/contacts';
import type { Groundwork } from '../measure/groundwork';
import { bearingPoint, lowPassedSoles, type LowPassed } from '../measure/slide';
import { soles, type Soles } from '../measure/soles';
import { bendTips } from '../anatomy/bend-tips';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';
import { reachFeet } from './reach-feet';
import { series } from '../math/series';

/** A contact begins and ends while the foot still moves: that much of it, seconds, is left to the blend. */
const EDGE_SECONDS = 0.03;
/** A foot or a toe tip that trembles into the floor by less is left, metres. */
const SLACK = 0.002;
/** Ground that much above the floor, metres, is a level of its own. */
const LEAST_RISE = 0.05;

/** What is known of a motion whose feet are to be held. */
export type Walker = Pick<Groundwork, 'motion' | 'globals' | 'body' | 'soles'>;

export interface HoldOptions {
  /** How long a foot takes back to where it was after a contact, and from there before one, seconds. */
  readonly blend: number;
  /** Lower the hips where a leg would not reach. */
  readonly hips: boolean;
  /** Bring bearing feet to the level of their ground, and keep the others above it. */
  readonly level: boolean;
}

/**
 * A motion in the world with its feet held: see the step `foot-lock`.
 *
 * @param rounds the second takes what the first one's own bending left
 * @param solesIn where the soles are in a motion of the same body
 */
export function lockFeet(
  found: Walker,
  contacts: Contacts,
  options: HoldOptions,
  rounds: 1 | 2,
  solesIn: (motion: Motion, globals: Globals) => Soles = (motion, globals) => soles(motion, globals, found.body),
): Motion {
  const { motion, body } = found;
  const once = lockOnce({ motion, body, globals: found.globals, soles: found.soles, contacts }, options);
  if (rounds === 1) return once;
  const globals = forwardKinematics(once);
  return lockOnce({ motion: once, body, globals, soles: solesIn(once, globals), contacts }, { ...options, level: false });
}

type Held = Walker & { readonly contacts: Contacts };

function lockOnce(found: Held, params: HoldOptions): Motion {
  const { motion } = found;
  const { fps } = motion;
  const out = copyMotion(motion);
  const tracks = lowPassedSoles(found.soles, fps);
  const { positions, joints } = found.globals;
  const targetOf = (side: 'left' | 'right') => {
    const { ankle } = found.body.legs[side];
    const move = correction(tracks[side], found.contacts[side], found, params, found.body.legs[side].toe >= 0);
    return move.map((by, i) => by + positions[(Math.floor(i / 3) * joints + ankle) * 3 + (i % 3)]);
  };
  reachFeet(out, found.globals, found.body, { left: targetOf('left'), right: targetOf('right') }, params.hips);
  if (params.level && found.soles.points) {
    const globals = forwardKinematics(out);
    for (const side of ['left', 'right'] as const) {
      const { toe } = found.body.legs[side];
      if (toe >= 0) bendTips(out, globals, { toe, ...found.soles.points[side] }, found.soles.floor, SLACK);
    }
  }
  return out;
}

/** How far a foot is moved in every frame, metres: against its slide in contacts, and smoothly from one to the next. */
function correction(
  track: LowPassed,
  contacts: readonly Interval[],
  { soles, motion }: Held,
  params: HoldOptions,
  hasToes: boolean,
): Float64Array {
  const { fps, frames } = motion;
  const out = new Float64Array(frames * 3);
  const edge = Math.round(EDGE_SECONDS * fps);
  const [heel, ball, tip] = track;
  const lowest = heel.y.map((y, f) => Math.min(y, ball.y[f], tip.y[f]));
  const held: { from: number; to: number }[] = [];
  const levelled: { from: number; to: number }[] = [];
  for (const contact of contacts) {
    const margin = Math.min(edge, Math.floor((contact.to - contact.from) / 4));
    // A contact that is cut off by the clip's end has no edge there.
    const from = contact.from === 0 ? 0 : contact.from + margin;
    const to = contact.to === frames ? frames : contact.to - margin;
    if (to - from < 2) continue;
    held.push({ from, to });
    let x = 0;
    let z = 0;
    for (let f = from + 1; f < to; f++) {
      const bearing = bearingPoint(track, f);
      x -= bearing.x[f] - bearing.x[f - 1];
      z -= bearing.z[f] - bearing.z[f - 1];
      out[f * 3] = x;
      out[f * 3 + 2] = z;
    }
    // As much to the one side as to the other: nobody is moved further than he must be.
    const half = [0, 2].map((k) => median(series(to - from, (i) => out[(from + i) * 3 + k])));
    const rests = median(lowest.subarray(from, to));
    const level = rests - soles.floor > LEAST_RISE ? rests : soles.floor;
    for (let f = from; f < to; f++) {
      out[f * 3] -= half[0];
      out[f * 3 + 2] -= half[1];
    }
    if (!params.level) continue;
    const rest = restOf(lowest, from, to, rests);
    // Where bearing goes from the heel to the tip the lowest point has a corner, which the leg would show.
    const lift = lowPass(
      lowest.subarray(rest.from, rest.to).map((y) => level - y),
      LEVEL_HERTZ,
      fps,
    );
    lift.forEach((by, i) => (out[(rest.from + i) * 3 + 1] = by));
    levelled.push(rest);
  }
  const blend = Math.max(2, Math.round(params.blend * fps));
  for (const k of [0, 2]) lead(out, k, held, blend, frames);
  lead(out, 1, levelled, blend, frames);
  // In the air a tip that dips is bent up; the foot is not lifted for it.
  const lifted = hasToes ? heel.y.map((y, f) => Math.min(y, ball.y[f])) : lowest;
  if (params.level) liftSwing(out, lifted, soles.floor, levelled, fps);
  return out;
}

/** A bearing foot is brought to its ground no quicker than this, hertz. */
const LEVEL_HERTZ = 6;
/** A foot that is further over where it rests is landing or leaving, metres. */
const RISEN = 0.005;

/** The part of a contact without the frames at its ends in which the foot comes down or rises: there it goes as it went. */
function restOf(lowest: Float64Array, from: number, to: number, rests: number): Interval {
  let [a, b] = [from, to];
  while (b - a > 3 && lowest[b - 1] > rests + RISEN) b--;
  while (b - a > 3 && lowest[a] > rests + RISEN) a++;
  return { from: a, to: b };
}

/** Fills what lies between contacts: from the end of one, with its velocity, to nothing, and from nothing to the next. */
function lead(out: Float64Array, k: number, held: readonly { from: number; to: number }[], blend: number, frames: number): void {
  const at = (f: number) => out[f * 3 + k];
  held.forEach(({ from, to }, i) => {
    const next = held[i + 1];
    const after = (next ? next.from : frames) - to;
    const span = next ? Math.min(blend, Math.max(1, Math.floor(after / 2))) : Math.min(blend, after);
    decay(out, k, to - 1, 1, span, at(to - 1), at(to - 1) - at(Math.max(from, to - 2)), frames);
    const before = from - (i > 0 ? held[i - 1].to : 0);
    const room = i > 0 ? Math.min(blend, Math.max(1, Math.ceil(before / 2))) : Math.min(blend, before);
    decay(out, k, from, -1, room, at(from), at(from) - at(Math.min(to - 1, from + 1)), frames);
  });
}

/** Lets a value go to 0 over some frames, begun with the change per frame that it has: a quintic in position, velocity and acceleration. */
function decay(
  out: Float64Array,
  k: number,
  start: number,
  step: 1 | -1,
  span: number,
  value: number,
  slope: number,
  frames: number,
): void {
  // A slope that would carry the value far out is not followed.
  const most = (2 * Math.abs(value)) / Math.max(1, span) + 1e-4;
  const v = Math.max(-most, Math.min(most, slope)) * span;
  for (let i = 1; i <= span; i++) {
    const f = start + step * i;
    if (f < 0 || f >= frames) return;
    const t = i / span;
    out[f * 3 + k] += value * (1 - smoothStep5(t)) + v * (t - 6 * t ** 3 + 8 * t ** 4 - 3 * t ** 5);
  }
}

/** Frames to the nearest one that is marked. */
function distanceTo(marks: Uint8Array): Float64Array {
  const out = new Float64Array(marks.length).fill(Infinity);
  for (let f = 0; f < out.length; f++) out[f] = marks[f] ? 0 : f > 0 ? out[f - 1] + 1 : Infinity;
  for (let f = out.length - 2; f >= 0; f--) out[f] = Math.min(out[f], out[f + 1] + 1);
  return out;
}

/** What lifts a swinging foot is taken this far to both sides, seconds, and goes no quicker than this, hertz. */
const LIFT_SECONDS = 0.06;
const LIFT_HERTZ = 6;

/** A foot that does not bear is kept above the floor; what lifts it comes and goes smoothly. */
function liftSwing(
  out: Float64Array,
  lowest: Float64Array,
  floor: number,
  held: readonly { from: number; to: number }[],
  fps: number,
): void {
  const bears = new Uint8Array(lowest.length);
  for (const { from, to } of held) bears.fill(1, from, to);
  const lack = lowest.map((y, f) => (bears[f] ? 0 : Math.max(0, floor - SLACK - (y + out[f * 3 + 1]))));
  if (lack.every((value) => value === 0)) return;
  // The most of what is lacking round about, smoothed: what lifts a foot has no corner.
  const window = Math.max(1, Math.round(LIFT_SECONDS * fps));
  const smooth = lowPass(spreadOut(lack, window), LIFT_HERTZ, fps);
  const near = distanceTo(bears);
  // Nothing is lifted where it rests, and little beside that.
  for (let f = 0; f < lack.length; f++) out[f * 3 + 1] += Math.max(0, smooth[f]) * smoothStep5(Math.min(1, near[f] / (LIFT_SECONDS * fps)));
}
