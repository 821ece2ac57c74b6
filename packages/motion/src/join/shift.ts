import { RADIANS } from '../math/angles';
import { fromHeading, multiply, multiplyInverse } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { groundwork, type Groundwork } from '../measure/groundwork';
import { reachFeet } from '../edit/reach-feet';
import type { Side } from '../model/body';
import { leading, moveFrames, movePoint, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion, cutMotion, type Motion } from '../model/motion';
import type { LaidPiece } from './piece';
import type { Shift } from './schema';

/** A body that is lifted no quicker than this needs no more time than it has in the air, metres a second squared. */
const QUICKEST = 10;
/** The greatest acceleration of a quintic from 0 to 1 in one second. */
const QUINTIC_PEAK = 5.77;
/** Up, a foot leads: it is there after this share of its way, so that no edge is in its way. Down, it follows. */
const LEAD = 0.6;
/** Beside what is changed, legs are reached with over so much as well, seconds. */
const BESIDE = 0.4;
const SIDES = ['left', 'right'] as const;

/** When a foot comes off the floor for a shift, and when it stands on the new floor; null: it does not. */
interface Swing {
  readonly off: number | null;
  readonly on: number | null;
  /** It stands to the very end. */
  readonly stays: boolean;
}

type Swings = Readonly<Record<Side, Swing>>;

/**
 * A piece whose body is raised, moved or turned from a frame on. A foot that stands then stays where it is until it comes off; feet that land later, land on
 * the shifted floor. The body goes while both feet are in the air as far as there is such time, else about the step that leads over; hips come down where a
 * leg would not reach. Before it nothing is changed, to the bit; behind it all is moved as a whole.
 *
 * @returns the piece as it was where both feet stand to its very end
 *
 * @example
 * const piece = layPiece(cutClip(motion, 20, 140), { times: 1 });
 * shiftPiece(piece, shiftSchema.parse({ at: 40, raise: 0.2 })).levels.length; // 1
 */
export function shiftPiece(piece: LaidPiece, shift: Shift): LaidPiece {
  const found = groundwork(piece.motion);
  const at = piece.start + shift.at;
  if (!found || at >= piece.motion.frames) return piece;
  const swings = { left: swingOf(piece, 'left', at), right: swingOf(piece, 'right', at) };
  if (SIDES.every((side) => swings[side].stays)) return piece;
  const ramp = rampOf(swings, shift, at, piece.motion.fps);
  const motion = moved(found, shift, swings, ramp);
  const lands = SIDES.flatMap((side) => swings[side].on ?? []);
  const leaves = SIDES.flatMap((side) => swings[side].off ?? []);
  const level = { from: Math.min(ramp.from, ...leaves), to: Math.max(ramp.to, ...lands), raise: shift.raise };
  return { ...piece, motion, levels: [...(piece.levels ?? []), ...(shift.raise === 0 ? [] : [level])] };
}

function swingOf({ contacts, motion }: LaidPiece, side: Side, at: number): Swing {
  const stood = contacts[side].filter(({ from }) => from < at).at(-1);
  const lands = contacts[side].find(({ from }) => from >= at);
  const stays = stood !== undefined && !lands && stood.to >= motion.frames;
  return { off: stood && !stays ? stood.to - 1 : null, on: lands?.from ?? null, stays };
}

interface Ramp {
  readonly from: number;
  readonly to: number;
}

/** When the body goes. */
function rampOf(swings: Swings, { frames, raise, ahead, left }: Shift, at: number, fps: number): Ramp {
  const offs = SIDES.flatMap((side) => swings[side].off ?? []);
  const ons = SIDES.flatMap((side) => swings[side].on ?? []);
  const lastOff = offs.length > 0 ? Math.max(...offs) : at;
  const firstOn = ons.length > 0 ? Math.min(...ons) : lastOff + frames;
  const air = firstOn - lastOff;
  const needed = Math.ceil(Math.sqrt((QUINTIC_PEAK * Math.hypot(raise, ahead, left)) / QUICKEST) * fps);
  const length = air <= 0 || air >= frames ? frames : Math.min(frames, Math.max(air, needed));
  if (air >= length) {
    const from = Math.min(firstOn - length, Math.max(lastOff, at));
    return { from, to: from + length };
  }
  const from = Math.max(0, Math.round((lastOff + firstOn - length) / 2));
  return { from, to: from + length };
}

/** Shares of a shift: on the floor, and in height. */
interface Share {
  readonly flat: number;
  readonly up: number;
}

/** How far a foot has gone at a frame. */
function footShare({ off, on, stays }: Swing, ramp: Ramp, raise: number, f: number): Share {
  if (stays) return { flat: 0, up: 0 };
  const from = off ?? Math.min(ramp.from, (on ?? ramp.to) - 1);
  // A foot that does not land again goes along with the body.
  const to = on ?? Math.max(ramp.to, from + (ramp.to - ramp.from));
  const u = (f - from) / Math.max(1, to - from);
  if (on === null) return { flat: smoothStep5(u), up: smoothStep5(u) };
  return { flat: smoothStep5(u), up: raise > 0 ? smoothStep5(u / LEAD) : smoothStep5((u - 1 + LEAD) / LEAD) };
}

function moved(found: Groundwork, shift: Shift, swings: Swings, ramp: Ramp): Motion {
  const { motion, body } = found;
  const part = partsOf(found, shift, (ramp.from + ramp.to) >> 1);
  const beside = Math.ceil(BESIDE * motion.fps);
  const ends = SIDES.flatMap((side) => [swings[side].off ?? ramp.from, swings[side].on ?? ramp.to]);
  const first = Math.max(0, Math.min(ramp.from, ...ends) - beside);
  const last = SIDES.some((side) => swings[side].stays)
    ? motion.frames - 1
    : Math.min(motion.frames - 1, Math.max(ramp.to, ...ends) + beside);
  const stretch = cutMotion(motion, first, last);
  const J = motion.skeleton.joints.length;
  for (let f = 0; f < stretch.frames; f++) {
    const own = smoothStep5((first + f - ramp.from) / (ramp.to - ramp.from));
    moveFrames(stretch, part({ flat: own, up: own }), f, f + 1);
  }
  const carried = forwardKinematics(stretch);
  const { globals } = found;
  const world = new Float64Array(4);
  const targets = { left: new Float64Array(stretch.frames * 3), right: new Float64Array(stretch.frames * 3) };
  for (const side of SIDES) {
    const { ankle } = body.legs[side];
    const parent = motion.skeleton.joints[ankle].parent;
    for (let f = 0; f < stretch.frames; f++) {
      const transform = part(footShare(swings[side], ramp, shift.raise, first + f));
      const [here, at] = [((first + f) * J + ankle) * 4, (f * J + ankle) * 4];
      movePoint(targets[side], f * 3, transform, globals.positions, ((first + f) * J + ankle) * 3);
      // The foot is turned as its place is, wherever the body has turned to.
      multiply(world, 0, fromHeading(transform.turn), 0, globals.rotations, here);
      multiplyInverse(stretch.rotations, at, carried.rotations, (f * J + parent) * 4, world, 0);
      carried.rotations.set(world, at);
    }
  }
  reachFeet(stretch, carried, body, targets, true);
  const out = copyMotion(motion);
  out.rotations.set(stretch.rotations, first * J * 4);
  out.rootPositions.set(stretch.rootPositions, first * 3);
  moveFrames(out, part({ flat: 1, up: 1 }), last + 1);
  return out;
}

/** What a share of the shift does: about where the body is in the middle of it, along where it faces. */
function partsOf(
  { motion, headings }: Groundwork,
  { raise, ahead, left, turnDeg }: Shift,
  middle: number,
): (share: Share) => FloorTransform {
  const f = Math.min(motion.frames - 1, middle);
  const [x, z] = [motion.rootPositions[f * 3], motion.rootPositions[f * 3 + 2]];
  const [s, c] = [Math.sin(headings[f]), Math.cos(headings[f])];
  const way = { x: ahead * s + left * c, z: ahead * c - left * s };
  return ({ flat, up }) => ({
    ...leading({ x, z }, { x: x + flat * way.x, z: z + flat * way.z }, flat * turnDeg * RADIANS),
    y: up * raise,
  });
}
