import { InputError } from '../error';
import { headings } from '../measure/heading';
import { groundwork } from '../measure/groundwork';
import type { Contacts } from '../model/contacts';
import { leading, moveFrames, type FloorTransform } from '../model/floor-transform';
import { joinMotions } from '../model/join';
import { cutMotion, type Motion } from '../model/motion';
import { resampleAt } from '../model/resample';
import { blendMotions, carryOver } from './blend';
import { overlapWeights } from './curve';
import { holdThrough } from './hold';
import { plainTimes, timesInStep, type OverlapTimes } from './in-step';
import { plantedApart, sinceHalf, together, untilHalf, within } from './join-contacts';
import type { Joined, Meet } from './joined';
import { bearsAt, lineUp, type Meeting } from './line-up';
import { levelAt, lowerLevel, type LaidPiece, type Level } from './piece';
import type { JoinInto } from './schema';
import { series } from '../math/series';

/** What has been joined so far: its last piece is still known beyond its end. */
export interface Sofar extends Joined {
  /** The last piece, placed, as far as it has been joined already as it is in the join; and the frame of the join at its motion's frame 0. */
  readonly last: LaidPiece;
  readonly offset: number;
}

export function begin(piece: LaidPiece, start: 'origin' | 'captured'): Sofar {
  const placed = start === 'origin' ? atOrigin(piece) : piece;
  const { start: from, frames } = placed;
  return {
    motion: cutMotion(placed.motion, from, from + frames - 1),
    contacts: within(placed.contacts, from, from + frames, 0),
    spans: [{ from: 0, to: frames - 1, start: 0 }],
    meets: [],
    levels: levelsBy(placed, -from),
    last: placed,
    offset: -from,
  };
}

function atOrigin(piece: LaidPiece): LaidPiece {
  const { motion, start } = piece;
  const found = groundwork(motion);
  const facing = found ? headings(found.globals, found.body)[start] : 0;
  const p = motion.rootPositions;
  return movedBy(piece, leading({ x: p[start * 3], z: p[start * 3 + 2] }, { x: 0, z: 0 }, -facing));
}

function movedBy(piece: LaidPiece, transform: FloorTransform): LaidPiece {
  const motion = cutMotion(piece.motion, 0, piece.motion.frames - 1);
  moveFrames(motion, transform);
  return { ...piece, motion, contacts: { ...piece.contacts, floorM: piece.contacts.floorM + (transform.y ?? 0) } };
}

function poseAt(piece: LaidPiece, frame: number): Meeting {
  const { motion, contacts } = piece;
  const at = Math.min(motion.frames - 1, Math.max(0, frame));
  const near = Math.round(at);
  return {
    pose: resampleAt(motion, [at], motion.fps),
    bears: { left: bearsAt(contacts, 'left', near), right: bearsAt(contacts, 'right', near) },
    floorM: contacts.floorM + levelAt(piece.levels, near),
  };
}

/** A cut, or the difference of pose and velocity carried into the coming piece: its first frame is the other's last. */
export function followed(sofar: Sofar, piece: LaidPiece, into: JoinInto): Sofar {
  const end = sofar.motion.frames - 1;
  const { transform, by } = lineUp(poseAt(sofar.last, end - sofar.offset), poseAt(piece, piece.start), into);
  const placed = movedBy(piece, transform);
  const own = cutMotion(placed.motion, piece.start, piece.start + piece.frames - 1);
  const isCarried = into.how === 'carry' && into.frames > 0;
  const coming = isCarried ? carryOver(own, cutMotion(sofar.motion, end - 1, end), into.frames) : own;
  // The frame in which both meet is the coming one's.
  const kept = end;
  const motion = joinMotions([cutMotion(sofar.motion, 0, kept - 1), coming]);
  const carried = isCarried ? Math.min(into.frames, piece.frames - 1) : 0;
  const contacts = together(
    within(sofar.contacts, 0, kept, 0),
    isCarried ? sinceCarried(piece, motion, kept, carried) : within(piece.contacts, piece.start, piece.start + piece.frames, kept),
  );
  const meet = {
    from: kept,
    to: kept + carried,
    by,
    isInStep: false,
    leaving: cutMotion(sofar.motion, end, end),
    coming: cutMotion(own, 0, carried),
  };
  return finish(sofar, { motion, contacts, placed, offset: kept - piece.start, to: motion.frames - 1, from: kept }, into, {
    ...meet,
    turn: transform.turn,
  });
}

/** Contacts of a piece that the difference is carried into: a foot that the difference moves bears only when that has died out. */
function sinceCarried({ contacts, start, frames: own }: LaidPiece, motion: Motion, from: number, frames: number): Contacts {
  const weights = overlapWeights(frames, 'smooth');
  const feet = plantedApart(motion, from, from + frames, weights, [0, 0]);
  const times = series(frames + 1, (f) => start + f);
  return sinceHalf(contacts, { from, frames, weights, times, feet, last: start + own - 1 });
}

export function overlapped(sofar: Sofar, piece: LaidPiece, into: JoinInto, number: number): Sofar {
  const end = sofar.motion.frames - 1;
  const { frames } = into;
  const room = Math.min(end, piece.frames - 1);
  if (frames > room)
    throw new InputError('join', `The overlap into piece ${number} is ${frames} frames long; there is room for ${Math.max(0, room)}.`, {
      frame: end,
    });
  const from = end - frames;
  const weights = overlapWeights(frames, into.curve, into.leaving);
  const leavingFrom = from - sofar.offset;
  const stepped = into.inStep
    ? timesInStep({ contacts: sofar.last.contacts, from: leavingFrom }, { contacts: piece.contacts, from: piece.start }, weights)
    : null;
  const times = stepped && isThere(stepped, sofar.last.motion, piece.motion) ? stepped : null;
  const { leaving, coming } = times ?? plainTimes(leavingFrom, piece.start, frames);
  const middle = frames >> 1;
  const { transform, by } = lineUp(poseAt(sofar.last, leaving[middle]), poseAt(piece, coming[middle]), into);
  const placed = movedBy(piece, transform);
  const parts = {
    leaving: resampleAt(sofar.last.motion, leaving, piece.motion.fps),
    coming: resampleAt(placed.motion, coming, piece.motion.fps),
  };
  const both = blendMotions(parts.leaving, parts.coming, weights);
  const next = Math.round(coming[frames]);
  const last = piece.start + piece.frames - 1;
  const rest = next < last ? [cutMotion(placed.motion, next + 1, last)] : [];
  const motion = joinMotions([...(from > 0 ? [cutMotion(sofar.motion, 0, from - 1)] : []), both, ...rest]);
  const feet = plantedApart(motion, from, end, weights);
  const contacts = together(
    untilHalf(sofar.contacts, { from, frames, weights, times: leaving.map((t) => t + sofar.offset), feet }),
    sinceHalf(piece.contacts, { from, frames, weights, times: coming, last, feet }),
  );
  const offset = from + frames - next;
  return finish(sofar, { motion, contacts, placed, offset, to: motion.frames - 1, from }, into, {
    ...{ from, to: end, by, isInStep: times !== null, ...parts },
    turn: transform.turn,
  });
}

/** Whether both motions have what the overlap asks of them. */
const isThere = ({ leaving, coming }: OverlapTimes, a: Motion, b: Motion): boolean =>
  Math.min(...leaving) >= 0 && Math.max(...leaving) <= a.frames - 1 && Math.min(...coming) >= 0 && Math.max(...coming) <= b.frames - 1;

interface Made {
  readonly motion: Motion;
  readonly contacts: Contacts;
  readonly placed: LaidPiece;
  readonly offset: number;
  readonly from: number;
  readonly to: number;
}

function finish(sofar: Sofar, { motion, contacts, placed, offset, from, to }: Made, into: JoinInto, meet: Meet): Sofar {
  const levels = [...sofar.levels, ...levelsBy(placed, offset)];
  const held =
    into.hold && into.frames > 0
      ? holdThrough(motion, contacts, [meet.from, meet.to], (f) => contacts.floorM + lowerLevel(levels, f))
      : motion;
  return {
    motion: held,
    contacts,
    spans: [...sofar.spans, { from, to, start: offset + placed.start }],
    meets: [...sofar.meets, meet],
    levels,
    last: { ...placed, motion: withFramesOf(placed.motion, held, offset) },
    offset,
  };
}

/** The levels of a piece that lie in it, in frames of the join. */
const levelsBy = ({ levels, start, frames }: LaidPiece, offset: number): Level[] =>
  (levels ?? [])
    .filter(({ from, to }) => to > start && from < start + frames)
    .map(({ from, to, raise }) => ({ from: from + offset, to: to + offset, raise }));

/** The motion of the last piece with what has become of it: the next overlap goes on from that, however short the piece is. */
function withFramesOf(motion: Motion, joined: Motion, offset: number): Motion {
  const out = cutMotion(motion, 0, motion.frames - 1);
  const stride = motion.skeleton.joints.length * 4;
  const first = Math.max(0, offset);
  const last = Math.min(joined.frames, offset + motion.frames);
  out.rotations.set(joined.rotations.subarray(first * stride, last * stride), (first - offset) * stride);
  out.rootPositions.set(joined.rootPositions.subarray(first * 3, last * 3), (first - offset) * 3);
  out.translations?.forEach((own, j) => {
    const of = joined.translations?.get(j);
    if (of) own.set(of.subarray(first * 3, last * 3), (first - offset) * 3);
  });
  return out;
}

export function checkAlike(a: Motion, b: Motion, number: number): void {
  const [p, q] = [a.skeleton.joints, b.skeleton.joints];
  if (p.length !== q.length || p.some(({ name }, j) => name !== q[j].name))
    throw new InputError(
      'join',
      `Piece ${number} has another skeleton than those before it: fit both to one character, then join them.`,
      {},
    );
  if (a.fps !== b.fps)
    throw new InputError(
      'join',
      `Piece ${number} has ${b.fps} frames a second, those before it ${a.fps}: bring the takes to one rate.`,
      {},
    );
}
