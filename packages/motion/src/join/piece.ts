import { InputError } from '../error';
import { clipContacts } from '../measure/clip-slides';
import { groundwork } from '../measure/groundwork';
import { worldMotion, type Clip } from '../model/clip';
import type { Contacts, Interval } from '../model/contacts';
import { leading, moveFrames, repeated, type FloorTransform } from '../model/floor-transform';
import { joinMotions } from '../model/join';
import { cutMotion, type Motion } from '../model/motion';
import { cycleTransform, pickFrames } from '../model/repeat';
import { headings } from '../measure/heading';
import { smoothStep5 } from '../math/smooth';

/** A piece as it is laid out: its frames, and what is known of the motion before and after them. */
export interface LaidPiece {
  /** In the world. */
  readonly motion: Motion;
  /** The piece's own frames in it: the first, and how many. */
  readonly start: number;
  readonly frames: number;
  /** In frames of the motion. */
  readonly contacts: Contacts;
  /** Frames at which a copy begins, from the piece's own first; without it. */
  readonly seams: readonly number[];
  /** It goes round and round: there is motion before and after it without end. */
  readonly loop?: boolean;
  /** Where the ground under it changes, in frames of the motion. */
  readonly levels?: readonly Level[];
}

/** Ground that is higher, or lower, behind some frames than before them, metres. */
export interface Level {
  readonly from: number;
  readonly to: number;
  readonly raise: number;
}

/** How much higher the ground is at a frame than at the beginning, metres. */
export const levelAt = (levels: readonly Level[] | undefined, frame: number): number =>
  (levels ?? []).reduce((sum, { from, to, raise }) => sum + raise * smoothStep5((frame - from) / Math.max(1, to - from)), 0);

/** The same where no sole may be lower: while the ground changes, the lower of both. */
export const lowerLevel = (levels: readonly Level[], frame: number): number =>
  levels.reduce((sum, { from, to, raise }) => sum + ((raise > 0 ? frame >= to : frame > from) ? raise : 0), 0);

export interface PieceCut {
  readonly from?: number;
  readonly to?: number;
  readonly times: number;
}

/** So much of the motion beside a piece is kept with it, seconds: an overlap that runs in step may need some. */
const BESIDE = 0.6;

/**
 * Lays out a clip, trimmed or extended, and repeated. A loop goes round and round; of any other clip each copy starts where the last one stopped, placed and
 * turned by its hips.
 *
 * @throws InputError `piece` where there is no motion
 *
 * @example
 * const loop = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) });
 * layPiece(loop, { times: 2.5 }).frames === Math.round(2.5 * (loop.motion.frames - 1)) + 1; // true
 */
export function layPiece(clip: Clip, { from = 0, to = clip.motion.frames - 1, times }: PieceCut): LaidPiece {
  if (to - from < 1) throw new InputError('piece', `A piece from ${from} to ${to} has no frames.`, { frame: from });
  return clip.loop ? ofLoop(clip, from, to, times) : ofCut(clip, from, to, times);
}

function ofLoop(clip: Clip, from: number, to: number, times: number): LaidPiece {
  const cycle = clip.motion.frames - 1;
  const frames = Math.max(2, Math.round(times * (to - from)) + 1);
  const beside = Math.round(BESIDE * clip.motion.fps);
  const first = from - beside;
  const world = worldMotion(clip);
  const turn = cycleTransform(clip);
  const count = frames + 2 * beside;
  const round = (i: number) => Math.floor((first + i) / cycle);
  const motion = pickFrames(
    world,
    Array.from({ length: count }, (_, i) => first + i - round(i) * cycle),
  );
  for (let i = 0; i < count;) {
    let end = i;
    while (end < count && round(end) === round(i)) end++;
    if (round(i) !== 0) moveFrames(motion, repeated(turn, round(i)), i, end);
    i = end;
  }
  const rounds = Array.from({ length: round(count - 1) - round(0) + 3 }, (_, k) => round(0) - 1 + k);
  const contacts = contactsOf(
    clip,
    (all) => rounds.flatMap((k) => all.map(({ from: a, to: b }) => shifted(a, b, k * cycle - first))),
    count,
  );
  const seams = rounds.map((k) => k * cycle - from).filter((f) => f > 0 && f < frames - 1);
  return { motion, start: beside, frames, contacts, seams, loop: true };
}

const shifted = (from: number, to: number, by: number): Interval => ({ from: from + by, to: to + by });

function contactsOf(clip: Clip, place: (all: readonly Interval[]) => Interval[], frames: number): Contacts {
  const found = clipContacts(clip);
  const own = (all: readonly Interval[]) =>
    place(all)
      .map(({ from, to }) => ({ from: Math.max(0, from), to: Math.min(frames, to) }))
      .filter(({ from, to }) => to > from)
      .sort((a, b) => a.from - b.from);
  return { fps: clip.motion.fps, floorM: found?.floorM ?? 0, left: own(found?.left ?? []), right: own(found?.right ?? []) };
}

function ofCut(clip: Clip, from: number, to: number, times: number): LaidPiece {
  const { lead, tail, travel } = clip;
  // What lies before and after the cut is in the world; behind travel it is no longer known.
  const before = travel ? null : lead;
  const after = travel ? null : tail;
  const own = worldMotion(clip);
  const whole = joinMotions([...(before ? [before] : []), own, ...(after ? [after] : [])]);
  const offset = before?.frames ?? 0;
  const [a, b] = [offset + from, offset + to];
  if (a < 0 || b >= whole.frames)
    throw new InputError('piece', `A piece from ${from} to ${to}: there is motion from ${-offset} to ${whole.frames - 1 - offset} only.`, {
      frame: from,
    });
  const contacts =
    clip.contacts || offset === 0
      ? settled(clip, offset, whole.frames)
      : (groundwork(whole)?.contacts ?? settled(clip, offset, whole.frames));
  const span = b - a;
  if (times === 1) return { motion: whole, start: a, frames: span + 1, contacts, seams: [] };
  const one = cutMotion(whole, a, b);
  const turn = onFrom(one);
  const count = Math.max(2, Math.round(times * span) + 1);
  const copyOf = (f: number) => Math.min(Math.floor(f / span), Math.ceil((count - 1) / span) - 1);
  const motion = pickFrames(
    one,
    Array.from({ length: count }, (_, f) => f - copyOf(f) * span),
  );
  for (let f = 0; f < count; f++) if (copyOf(f) > 0) moveFrames(motion, repeated(turn, copyOf(f)), f, f + 1);
  const copies = Array.from({ length: copyOf(count - 1) + 1 }, (_, k) => k);
  const all = (intervals: readonly Interval[]) =>
    copies
      .flatMap((k) =>
        intervals
          .map((own) => ({ from: Math.max(a, own.from), to: Math.min(b + 1, own.to) }))
          .filter((own) => own.to > own.from)
          .map((own) => shifted(own.from, own.to, k * span - a)),
      )
      .map((own) => ({ from: own.from, to: Math.min(count, own.to) }))
      .filter((own) => own.to > own.from);
  return {
    motion,
    start: 0,
    frames: count,
    contacts: { ...contacts, left: all(contacts.left), right: all(contacts.right) },
    seams: copies.slice(1).map((k) => k * span),
  };
}

/** Contacts of the clip; one that is under way at its beginning or its end goes on beyond. */
const settled = (clip: Clip, offset: number, frames: number): Contacts =>
  contactsOf(
    clip,
    (all) => all.map(({ from, to }) => ({ from: from <= 0 ? 0 : from + offset, to: to >= clip.motion.frames ? frames : to + offset })),
    frames,
  );

/** What puts a motion's first frame where its last one is: on the floor, by the hips and where the body faces. */
function onFrom(motion: Motion): FloorTransform {
  const found = groundwork(motion);
  const last = motion.frames - 1;
  const facing = found ? headings(found.globals, found.body) : new Float64Array(motion.frames);
  const p = motion.rootPositions;
  const at = (f: number) => ({ x: p[f * 3], z: p[f * 3 + 2] });
  return leading(at(0), at(last), facing[last] - facing[0]);
}
