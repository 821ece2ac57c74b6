import { z } from 'zod';
import { lowPass } from '../math/filter';
import { smoothStep5 } from '../math/smooth';
import { median } from '../math/statistics';
import { gait, type Gait } from '../measure/gait';
import { bearingPoint, lowPassedSoles, type LowPassed } from '../measure/slide';
import { soles } from '../measure/soles';
import { comingRound, ownContacts, played } from '../measure/played';
import type { Contacts, Interval } from '../measure/contacts';
import { toSpaceOf, type Clip } from '../model/clip';
import { alignSigns, copyMotion, cutMotion, type Motion } from '../model/motion';
import { forwardKinematics } from '../model/kinematics';
import { reachFeet } from '../model/reach-feet';
import { cycleTransform } from '../model/repeat';
import { repeatFirst } from './repeat-first';
import type { Step } from './step';

const intervals = z
  .array(
    z
      .object({ from: z.int().min(0).max(1e7), to: z.int().min(1).max(2e7) })
      .refine(({ from, to }) => to > from, 'A contact ends after it begins.'),
  )
  .max(2000);

export const footLockParams = z.object({
  kind: z.literal('foot-lock'),
  off: z.boolean().optional(),
  /** How long a foot takes back to where it was captured after a contact, and from there before one, seconds. */
  blend: z.number().min(0.02).max(1).default(0.2),
  /** Lower the hips where a leg would not reach. */
  hips: z.boolean().default(true),
  /** Bring bearing feet to the level of their ground, and keep the others above it. */
  level: z.boolean().default(true),
  /** When the feet bear, as set by hand: frames of the clip, first and first after; in a loop a contact may end beyond its last frame. Else it is measured. */
  contacts: z.object({ left: intervals, right: intervals }).optional(),
});
export type FootLockParams = z.infer<typeof footLockParams>;

/** A contact begins and ends while the foot still moves: that much of it, seconds, is left to the blend. */
const EDGE_SECONDS = 0.03;
/** Ground that much above the floor, metres, is a level of its own. */
const LEAST_RISE = 0.05;

/**
 * Holds planted feet. While a foot bears, whatever of its sole bears (heel, then ball, then tip) stays where it came down, on the level of
 * its ground; the correction is led in and out with the velocities that it has at the contact's edges. The legs follow in closed form, in
 * the plane their knees bend in, and the hips come down smoothly where a leg would not reach.
 *
 * Idea: Kovar, Schreiner, Gleicher, *Footskate Cleanup*, 2002.
 */
export const footLock: Step<'foot-lock', FootLockParams> = {
  kind: 'foot-lock',
  params: footLockParams,
  apply: (clip, params) => holdFeet(clip, params, 2),
};

/** @param rounds the second takes what the first one's own bending left */
export function holdFeet(clip: Clip, params: FootLockParams, rounds: 1 | 2): Clip {
  const last = clip.motion.frames - 1;
  const shown = played(clip);
  const found = gait(shown.motion);
  if (!found) return clip;
  const known = params.contacts && { fps: shown.motion.fps, floorM: found.contacts.floorM, ...params.contacts };
  const contacts = known ?? (shown.start > 0 ? ownContacts(found.contacts, shown.start, last) : found.contacts);
  const locked = lock(found, shown.start > 0 ? comingRound(contacts, last, shown) : contacts, params, rounds);
  return { ...putBack(clip, locked, shown.start), contacts };
}

/** The frames of a clip out of what was played of it, in its own space; a loop comes round to its first frame. */
function putBack(clip: Clip, locked: Motion, start: number): Clip {
  const last = clip.motion.frames - 1;
  const own = start > 0 ? cutMotion(locked, start, start + last) : locked;
  const motion = clip.travel ? toSpaceOf(own, clip.travel) : own;
  if (start > 0) {
    const cycle = cycleTransform(clip);
    repeatFirst(motion, last, clip.travel ? 0 : cycle.turn, clip.travel ? 0 : cycle.y);
    if (clip.travel) for (const k of [0, 2]) motion.rootPositions[last * 3 + k] = motion.rootPositions[k];
  }
  alignSigns(motion);
  return { ...clip, motion };
}

/** A motion in the world with its feet held. */
function lock(found: Gait, contacts: Contacts, params: FootLockParams, rounds: 1 | 2): Motion {
  const once = lockOnce({ ...found, contacts }, params);
  if (rounds === 1) return once;
  const globals = forwardKinematics(once);
  const again = { ...found, motion: once, globals, soles: soles(once, globals, found.body), contacts };
  return lockOnce(again, { ...params, level: false });
}

function lockOnce(found: Gait, params: FootLockParams): Motion {
  const { motion } = found;
  const { fps } = motion;
  const out = copyMotion(motion);
  const tracks = lowPassedSoles(found.soles, fps);
  const { positions, joints } = found.globals;
  const targetOf = (side: 'left' | 'right') => {
    const { ankle } = found.body.legs[side];
    const move = correction(tracks[side], found.contacts[side], found, params);
    return move.map((by, i) => by + positions[(Math.floor(i / 3) * joints + ankle) * 3 + (i % 3)]);
  };
  reachFeet(out, found.globals, found.body, { left: targetOf('left'), right: targetOf('right') }, params.hips);
  return out;
}

/** How far a foot is moved in every frame, metres: against its slide in contacts, and smoothly from one to the next. */
function correction(track: LowPassed, contacts: readonly Interval[], { soles, motion }: Gait, params: FootLockParams): Float64Array {
  const { fps, frames } = motion;
  const out = new Float64Array(frames * 3);
  const edge = Math.round(EDGE_SECONDS * fps);
  const [heel, ball, tip] = track;
  const lowest = heel.y.map((y, f) => Math.min(y, ball.y[f], tip.y[f]));
  const held: { from: number; to: number }[] = [];
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
    const half = [0, 2].map((k) => median(Float64Array.from({ length: to - from }, (_, i) => out[(from + i) * 3 + k])));
    const rests = median(lowest.subarray(from, to));
    const level = rests - soles.floor > LEAST_RISE ? rests : soles.floor;
    for (let f = from; f < to; f++) {
      out[f * 3] -= half[0];
      out[f * 3 + 2] -= half[1];
      out[f * 3 + 1] = params.level ? level - lowest[f] : 0;
    }
  }
  for (let k = 0; k < 3; k++) lead(out, k, held, Math.max(2, Math.round(params.blend * fps)), frames);
  if (params.level) liftSwing(out, lowest, soles.floor, held, fps);
  return out;
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
  const lack = lowest.map((y, f) => (bears[f] ? 0 : Math.max(0, floor - (y + out[f * 3 + 1]))));
  if (lack.every((value) => value === 0)) return;
  const smooth = lowPass(lack, 8, fps);
  for (let f = 0; f < lack.length; f++) if (!bears[f]) out[f * 3 + 1] += Math.max(lack[f], smooth[f]);
}
