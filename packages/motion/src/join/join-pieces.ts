import { InputError } from '../error';
import { headings } from '../measure/heading';
import { groundwork } from '../measure/groundwork';
import type { Side } from '../model/body';
import type { Contacts, Interval } from '../model/contacts';
import { leading, moveFrames, type FloorTransform } from '../model/floor-transform';
import { joinMotions } from '../model/join';
import { alignSigns, cutMotion, type Motion } from '../model/motion';
import { resampleAt } from '../model/resample';
import { blendMotions, carryOver } from './blend';
import { overlapWeights } from './curve';
import { holdThrough } from './hold';
import { plainTimes, timesInStep, type OverlapTimes } from './in-step';
import { bearsAt, lineUp, type Meeting, type MetBy } from './line-up';
import type { LaidPiece } from './piece';
import type { JoinInto } from './schema';

/** Where a piece lies in what was joined, frames, first and last; in an overlap two lie there. */
export interface PieceSpan {
  readonly from: number;
  readonly to: number;
}

/** Where two pieces meet. */
export interface Meet {
  /** First and last frame of the overlap; of a cut the one frame that both share. */
  readonly from: number;
  readonly to: number;
  readonly by: MetBy;
  /** Time ran in step. */
  readonly isInStep: boolean;
  /** How far the coming piece was turned on the floor, radians. */
  readonly turn: number;
}

export interface Joined {
  /** In the world. */
  readonly motion: Motion;
  readonly contacts: Contacts;
  readonly spans: readonly PieceSpan[];
  readonly meets: readonly Meet[];
}

/**
 * Pieces end to end, each put where the one before it leads.
 *
 * @param pieces each with how it follows the one before it; the first one's is not looked at
 * @throws InputError `join` when pieces are of different skeletons, or an overlap is longer than a piece
 *
 * @example
 * const cut = layPiece(cutClip(motion, 20, 120), { times: 1 });
 * joinPieces([cut, cut].map((piece) => ({ piece, into: joinIntoSchema.parse({ frames: 10 }) })), 'origin').meets.length; // 1
 */
export function joinPieces(
  pieces: readonly { readonly piece: LaidPiece; readonly into: JoinInto }[],
  start: 'origin' | 'captured',
): Joined {
  const [first, ...others] = pieces;
  let sofar = begin(first.piece, start);
  others.forEach(({ piece, into }, i) => {
    checkAlike(sofar.motion, piece.motion, i + 2);
    sofar = into.frames === 0 || into.how === 'carry' ? followed(sofar, piece, into) : overlapped(sofar, piece, into, i + 2);
  });
  const motion = sofar.motion;
  alignSigns(motion);
  return { motion, contacts: sofar.contacts, spans: sofar.spans, meets: sofar.meets };
}

/** What has been joined so far: its last piece is still known beyond its end. */
interface Sofar extends Joined {
  /** The last piece, placed, and the frame of the join at its motion's frame 0. */
  readonly last: LaidPiece;
  readonly offset: number;
}

function begin(piece: LaidPiece, start: 'origin' | 'captured'): Sofar {
  const placed = start === 'origin' ? atOrigin(piece) : piece;
  const { start: from, frames } = placed;
  return {
    motion: cutMotion(placed.motion, from, from + frames - 1),
    contacts: within(placed.contacts, from, from + frames, 0),
    spans: [{ from: 0, to: frames - 1 }],
    meets: [],
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

/** Contacts of some frames, counted from a frame of the join. */
function within({ fps, floorM, left, right }: Contacts, from: number, to: number, at: number): Contacts {
  const own = (all: readonly Interval[]) =>
    all
      .map((one) => ({ from: Math.max(from, one.from) - from + at, to: Math.min(to, one.to) - from + at }))
      .filter((one) => one.to > one.from);
  return { fps, floorM, left: own(left), right: own(right) };
}

/** Contacts of both, those that touch or nearly do made one. */
function together(a: Contacts, b: Contacts): Contacts {
  const merged = (x: readonly Interval[], y: readonly Interval[]) => {
    const out: { from: number; to: number }[] = [];
    for (const own of [...x, ...y].sort((p, q) => p.from - q.from)) {
      const last = out.at(-1);
      if (last && own.from - last.to <= 2) last.to = Math.max(last.to, own.to);
      else out.push({ ...own });
    }
    return out;
  };
  return { ...a, left: merged(a.left, b.left), right: merged(a.right, b.right) };
}

function poseAt(piece: LaidPiece, frame: number): Meeting {
  const { motion, contacts } = piece;
  const at = Math.min(motion.frames - 1, Math.max(0, frame));
  const near = Math.round(at);
  return {
    pose: resampleAt(motion, [at], motion.fps),
    bears: { left: bearsAt(contacts, 'left', near), right: bearsAt(contacts, 'right', near) },
    floorM: contacts.floorM,
  };
}

/** A cut, or the difference of pose and velocity carried into the coming piece: its first frame is the other's last. */
function followed(sofar: Sofar, piece: LaidPiece, into: JoinInto): Sofar {
  const end = sofar.motion.frames - 1;
  const { transform, by } = lineUp(poseAt(sofar.last, end - sofar.offset), poseAt(piece, piece.start), into);
  const placed = movedBy(piece, transform);
  const own = cutMotion(placed.motion, piece.start, piece.start + piece.frames - 1);
  const isCarried = into.how === 'carry' && into.frames > 0;
  const coming = isCarried ? carryOver(own, cutMotion(sofar.motion, end - 1, end), into.frames) : own;
  // The frame in which both meet is the coming one's.
  const kept = end;
  const motion = joinMotions([cutMotion(sofar.motion, 0, kept - 1), coming]);
  const contacts = together(within(sofar.contacts, 0, kept, 0), within(piece.contacts, piece.start, piece.start + piece.frames, kept));
  const meet = {
    from: kept - (isCarried ? 0 : 1),
    to: kept + (isCarried ? Math.min(into.frames, piece.frames - 1) : 0),
    by,
    isInStep: false,
  };
  return finish(sofar, { motion, contacts, placed, offset: kept - piece.start, to: motion.frames - 1, from: kept }, into, {
    ...meet,
    turn: transform.turn,
  });
}

function overlapped(sofar: Sofar, piece: LaidPiece, into: JoinInto, number: number): Sofar {
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
  const both = blendMotions(
    resampleAt(sofar.last.motion, leaving, piece.motion.fps),
    resampleAt(placed.motion, coming, piece.motion.fps),
    weights,
  );
  const next = Math.round(coming[frames]);
  const last = piece.start + piece.frames - 1;
  const rest = next < last ? [cutMotion(placed.motion, next + 1, last)] : [];
  const motion = joinMotions([cutMotion(sofar.motion, 0, from - 1 < 0 ? 0 : from - 1), both, ...rest].slice(from === 0 ? 1 : 0));
  const feet = plantedApart(motion, from, end, weights);
  const contacts = together(
    untilHalf(sofar.contacts, { from, frames, weights, times: leaving.map((t) => t + sofar.offset), feet }),
    sinceHalf(piece.contacts, { from, frames, weights, times: coming, last, feet }),
  );
  const offset = from + frames - next;
  return finish(sofar, { motion, contacts, placed, offset, to: motion.frames - 1, from }, into, {
    ...{ from, to: end, by, isInStep: times !== null },
    turn: transform.turn,
  });
}

/** Whether both motions have what the overlap asks of them. */
const isThere = ({ leaving, coming }: OverlapTimes, a: Motion, b: Motion): boolean =>
  Math.min(...leaving) >= 0 && Math.max(...leaving) <= a.frames - 1 && Math.min(...coming) >= 0 && Math.max(...coming) <= b.frames - 1;

interface Half {
  readonly from: number;
  readonly frames: number;
  readonly weights: Float64Array;
  /** The piece's own instant at each frame of the overlap. */
  readonly times: Float64Array;
  /** Shares of the coming piece at which each foot is let go, and at which it bears again. */
  readonly feet: Feet;
}

type Feet = Readonly<Record<Side, readonly [letGo: number, bears: number]>>;

/** A foot that goes further than this over the middle of an overlap cannot have stood there all the time, metres. */
const APART = 0.03;
const HALF = [0.5, 0.5] as const;
/** Such a foot takes a step from the one place to the other meanwhile. */
const STEPPING = [0.12, 0.88] as const;

/** A foot that stands at one place in the one piece and at another in the other is let go in between. */
function plantedApart(motion: Motion, from: number, to: number, weights: Float64Array): Feet {
  const found = groundwork(cutMotion(motion, from, to));
  if (!found) return { left: HALF, right: HALF };
  const { positions, joints } = found.globals;
  const [a, b] = [weights.findIndex((w) => w > STEPPING[0]), weights.findIndex((w) => w >= STEPPING[1])];
  const of = (side: Side) => {
    const at = (f: number) => (f * joints + found.body.legs[side].ankle) * 3;
    const way = Math.hypot(positions[at(b)] - positions[at(a)], positions[at(b) + 2] - positions[at(a) + 2]);
    return way > APART ? STEPPING : HALF;
  };
  return { left: of('left'), right: of('right') };
}

/** The frame of the overlap at which a piece's instant is played. */
function frameOf(times: Float64Array, instant: number): number {
  let f = 0;
  while (f < times.length && times[f] < instant - 1e-6) f++;
  return f;
}

/** Of the leaving piece: contacts that have begun before the other counts more; those end with the overlap's middle. */
function untilHalf({ fps, floorM, left, right }: Contacts, { from, frames, weights, times, feet }: Half): Contacts {
  const at = (f: number) => (f <= from ? f : from + Math.min(frames + 1, frameOf(times, f)));
  const own = (all: readonly Interval[], [letGo]: Feet[Side]) => {
    const half = from + weights.findIndex((w) => w >= letGo);
    return all.map((one) => ({ from: at(one.from), to: Math.min(half, at(one.to)) })).filter((one) => one.to > one.from);
  };
  return { fps, floorM, left: own(left, feet.left), right: own(right, feet.right) };
}

/** Of the coming piece: contacts that last beyond the overlap's middle; those begin there. */
function sinceHalf(
  { fps, floorM, left, right }: Contacts,
  { from, frames, weights, times, last, feet }: Half & { last: number },
): Contacts {
  const end = times[frames];
  const at = (f: number) => (f >= end ? from + frames + Math.round(f - end) : from + frameOf(times, f));
  const own = (all: readonly Interval[], [, bears]: Feet[Side]) => {
    const half = from + weights.findIndex((w) => w >= bears);
    return all
      .map((one) => ({ from: Math.max(half, at(one.from)), to: at(Math.min(last + 1, one.to)) }))
      .filter((one) => one.to > one.from);
  };
  return { fps, floorM, left: own(left, feet.left), right: own(right, feet.right) };
}

interface Made {
  readonly motion: Motion;
  readonly contacts: Contacts;
  readonly placed: LaidPiece;
  readonly offset: number;
  readonly from: number;
  readonly to: number;
}

function finish(sofar: Sofar, { motion, contacts, placed, offset, from, to }: Made, into: JoinInto, meet: Meet): Sofar {
  const held = into.hold && into.frames > 0 ? holdThrough(motion, contacts, [meet.from, meet.to]) : motion;
  return {
    motion: held,
    contacts,
    spans: [...sofar.spans, { from, to }],
    meets: [...sofar.meets, meet],
    last: placed,
    offset,
  };
}

function checkAlike(a: Motion, b: Motion, number: number): void {
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
