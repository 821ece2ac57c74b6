import {
  bodyOf,
  forwardKinematics,
  groundwork,
  joiner,
  meetFigures,
  joinIntoSchema,
  layOut,
  motionPair,
  pairMap,
  platforms,
  whereTheyFit,
  writeBvh,
  type ClipRecipe,
  type Contacts,
  type Fitting,
  type Joined,
  type JoinFigures,
  type JoinPiece,
  type LaidPiece,
  type Level,
  type Motion,
  type MotionPair,
  type PieceSpan,
  type PlacedPiece,
  type StageProp,
} from '@lantern/motion';
import { LRUCache } from 'lru-cache';
import { copyForWire } from './clip-result';
import { orProblem, withCast } from './fit-api';
import { takeOf } from './held';
import { markersOf, type Markers } from './markers';
import type { WireMotion } from './wire';

/** A piece of a join and where it comes from. */
export interface PieceAsked {
  readonly piece: JoinPiece;
  /** The take by its key; and the clip's recipe, or null for a cut of the take itself. */
  readonly take: string;
  readonly recipe: ClipRecipe | null;
}

/** A join as the worker is asked for it. */
export interface JoinAsked {
  readonly id: string;
  readonly start: 'origin' | 'captured';
  readonly pieces: readonly PieceAsked[];
}

/** How a piece lies in what it is cut from, frames. */
export interface PieceRoom {
  readonly from: number;
  readonly to: number;
  readonly loop: boolean;
  /** Motion before its first frame and after its last. */
  readonly before: number;
  readonly after: number;
  /** So many frames it has, with all its copies. */
  readonly frames: number;
}

/** A join as it is shown. */
export interface JoinView {
  readonly motion: WireMotion;
  readonly markers: Markers | null;
  readonly floor: number;
  readonly contacts: Contacts;
  readonly spans: readonly PieceSpan[];
  readonly rooms: readonly PieceRoom[];
  /** Frames of the join at which a copy of a piece begins. */
  readonly seams: readonly (readonly number[])[];
  readonly meets: readonly MeetView[];
  readonly levels: readonly Level[];
  /** What the feet stand on where the ground is raised. */
  readonly platforms: readonly StageProp[];
  /** Of the hips over the floor, metres, one a frame. */
  readonly height: Float32Array;
}

/** Where two pieces meet, as it is shown. */
export interface MeetView extends JoinFigures {
  /** Where they were put over each other: on the floor, metres. */
  readonly place: readonly [number, number];
  readonly leaving: WireMotion;
  readonly coming: WireMotion;
}

/** Two motions held against each other, and where in them the pieces lie. */
export interface FitsAsked {
  /** Frames of what the leaving piece is cut from (rows), and of what the coming one is (columns). */
  readonly rows: readonly [number, number];
  readonly columns: readonly [number, number];
}

const laidPieces = new LRUCache<string, LaidPiece>({ max: 60 });
const joiners = new LRUCache<string, ReturnType<typeof joiner>>({ max: 4 });
const figures = new LRUCache<string, readonly JoinFigures[]>({ max: 4 });
const pairs = new LRUCache<string, MotionPair>({ max: 6 });

async function laid({ piece, take, recipe }: PieceAsked): Promise<LaidPiece> {
  const { into: _, marks: __, id: ___, ...own } = piece;
  const key = JSON.stringify([own, take, recipe]);
  const known = laidPieces.get(key);
  if (known) return known;
  const held = recipe ? await withCast(take, recipe.steps) : await takeOf(take);
  const made = layOut(piece, { clip: () => (recipe ? held.run(recipe) : null), take: () => held.motion });
  laidPieces.set(key, made);
  return made;
}

const placed = (pieces: readonly PieceAsked[]): Promise<PlacedPiece[]> =>
  Promise.all(pieces.map(async (own) => ({ piece: await laid(own), into: own.piece.into })));

interface WholeJoin extends Joined {
  readonly own: readonly PlacedPiece[];
  /** Of pieces that are cut from takes, how many frames those have; of others null. */
  readonly takeFrames: readonly (number | null)[];
}

/** How often figures of a join were asked for while something of it is dragged: a whole join that is being worked out is given up for them. */
const hurries = new LRUCache<string, number>({ max: 100 });
/** Lets what has come meanwhile be heard. */
const breath = () => new Promise<void>((resolve) => setTimeout(resolve));

/** Something newer is wanted. */
class Overtaken extends Error {}

/** @throws Overtaken once `isOver`, which is asked from time to time */
async function joined({ id, start, pieces }: JoinAsked, isOver: () => boolean = () => false): Promise<WholeJoin> {
  const own = await placed(pieces);
  // Whoever else wants the same join meanwhile begins one of his own.
  const join = joiners.get(id) ?? joiner();
  joiners.delete(id);
  try {
    while (!join.step(own, start)) {
      await breath();
      if (isOver()) throw new Overtaken();
    }
    const takeFrames = await Promise.all(pieces.map(async ({ take, recipe }) => (recipe ? null : (await takeOf(take)).motion.frames)));
    return { ...join.join(own, start), own, takeFrames };
  } finally {
    joiners.set(id, join);
  }
}

/** A join's motion, for what is cut from it. */
export const joinMotion = async (asked: JoinAsked): Promise<Motion> => (await joined(asked)).motion;

/** What the worker does with joins. */
export const joinApi = {
  /**
   * A join, whole, with the figures of every place at which two pieces meet; given up when figures are wanted at once.
   *
   * @param changed the meetings whose figures are wanted, while something is dragged; those of the others stay as they were
   */
  async joinView(asked: JoinAsked, changed: readonly number[] | null = null): Promise<JoinView | 'overtaken' | { problem: string }> {
    const number = hurries.get(asked.id);
    const isOver = () => hurries.get(asked.id) !== number;
    try {
      return await orProblem(async () => {
        const whole = await joined(asked, isOver);
        const before = figures.get(asked.id) ?? [];
        const isKnown = (i: number) => changed !== null && !changed.includes(i) && before.length === whole.meets.length;
        const now: JoinFigures[] = [];
        for (const [i, meet] of whole.meets.entries()) {
          if (isKnown(i)) {
            now.push({ ...before[i], from: meet.from, to: meet.to });
            continue;
          }
          now.push(meetFigures(whole, i));
          await breath();
          if (isOver()) throw new Overtaken();
        }
        figures.set(asked.id, now);
        return viewOf(whole, asked.pieces, now);
      });
    } catch (error) {
      if (error instanceof Overtaken) return 'overtaken';
      throw error;
    }
  },

  /** The figures of one of the places at which two pieces meet, before the whole join is worked out. */
  async joinMeet({ id, pieces }: JoinAsked, index: number): Promise<JoinFigures | { problem: string }> {
    hurries.set(id, (hurries.get(id) ?? 0) + 1);
    return orProblem(async () => {
      const [a, b] = await placed(pieces.slice(index, index + 2));
      const around = Math.round(AROUND * a.piece.motion.fps) + b.into.frames;
      const both = joiner().join(
        [
          { ...a, piece: endOf(a.piece, around) },
          { ...b, piece: beginningOf(b.piece, around) },
        ],
        'captured',
      );
      return meetFigures(both, 0);
    });
  },

  /** Where two pieces that follow each other fit: the best instants, in frames of what they are cut from. */
  async joinFits({ pieces }: JoinAsked, index: number, { rows, columns }: FitsAsked): Promise<readonly Fitting[] | { problem: string }> {
    return orProblem(async () => {
      const [a, b] = await Promise.all(pieces.slice(index, index + 2).map(laid));
      const [shiftA, shiftB] = [firstFrame(pieces[index], a), firstFrame(pieces[index + 1], b)];
      const [p, q] = [groundwork(a.motion), groundwork(b.motion)];
      if (!p || !q) return [];
      const reach = { a: offBy(rows, -shiftA), b: offBy(columns, -shiftB) };
      const { candidates } = whereTheyFit(p, q, pieces[index + 1].piece.into, 5, reach);
      return candidates.map((own) => ({ ...own, a: own.a + shiftA, b: own.b + shiftB }));
    });
  },

  /** How far apart instants of both are, metres: rows of the leaving one, columns of the coming one. */
  async joinMap({ pieces }: JoinAsked, index: number, { rows, columns }: FitsAsked, size: number): Promise<Float32Array | null> {
    const two = pieces.slice(index, index + 2);
    const [a, b] = await Promise.all(two.map(laid));
    const key = JSON.stringify(two.map(({ piece, take, recipe }) => [{ ...piece, into: null, marks: null }, take, recipe]));
    const [p, q] = [groundwork(a.motion), groundwork(b.motion)];
    if (!p || !q) return null;
    const pair = pairs.get(key) ?? motionPair(p, q);
    pairs.set(key, pair);
    return pairMap(pair, offBy(rows, -firstFrame(two[0], a)), offBy(columns, -firstFrame(two[1], b)), size);
  },

  /** How well a piece could follow another: the best of the joins it would give near the one's end. */
  async joinFollow(last: PieceAsked, next: PieceAsked): Promise<Fitting | null | { problem: string }> {
    return orProblem(async () => {
      const [a, b] = await Promise.all([laid(last), laid(next)]);
      const [p, q] = [groundwork(a.motion), groundwork(b.motion)];
      if (!p || !q) return null;
      const end = a.start + a.frames - 1;
      const near = Math.round(FOLLOWS * a.motion.fps);
      const shifts = [firstFrame(last, a), firstFrame(next, b)];
      const [best] = whereTheyFit(p, q, joinIntoSchema.parse({}), 1, { a: [end - near, end], b: [b.start, b.start + 2 * near] }).candidates;
      return best ? { ...best, a: best.a + shifts[0], b: best.b + shifts[1] } : null;
    });
  },

  /** A join as a file of its own: BVH in metres. */
  async joinBake(asked: JoinAsked): Promise<string | { problem: string }> {
    return orProblem(async () => writeBvh(await joinMotion(asked)));
  },
};

/** Of a join whose figures are wanted at once, so much to either side of the overlap is looked at, seconds. */
const AROUND = 1.6;
/** A piece could follow within so much of the end, seconds. */
const FOLLOWS = 1.2;

const offBy = ([from, to]: readonly [number, number], by: number): readonly [number, number] => [from + by, to + by];

/** The frame of its clip, or take, at which the motion of a laid piece begins. */
const firstFrame = ({ piece }: PieceAsked, { start }: LaidPiece): number => (piece.from ?? 0) - start;

function endOf(piece: LaidPiece, frames: number): LaidPiece {
  const off = Math.max(0, piece.frames - 1 - frames);
  return { ...piece, start: piece.start + off, frames: piece.frames - off };
}
const beginningOf = (piece: LaidPiece, frames: number): LaidPiece => ({ ...piece, frames: Math.min(piece.frames, frames + 1) });

function viewOf(whole: WholeJoin, asked: readonly PieceAsked[], now: readonly JoinFigures[]): JoinView {
  const { motion, contacts, spans, levels, meets, own, takeFrames } = whole;
  const found = groundwork(motion);
  return {
    motion: copyForWire(motion),
    markers: found && markersOf(found),
    floor: contacts.floorM,
    contacts,
    spans,
    rooms: own.map(({ piece }, i) => roomOf(piece, asked[i].piece, takeFrames[i])),
    seams: own.map(({ piece }, i) => piece.seams.map((f) => f + spans[i].start)),
    meets: meets.map((meet, i) => ({ ...now[i], place: placeOf(meet), leaving: meet.leaving, coming: meet.coming })),
    levels,
    platforms: platforms(whole),
    height: Float32Array.from({ length: motion.frames }, (_, f) => motion.rootPositions[f * 3 + 1] - contacts.floorM),
  };
}

function roomOf({ motion, start, frames, loop = false }: LaidPiece, piece: JoinPiece, takeFrames: number | null): PieceRoom {
  const from = piece.from ?? 0;
  const to = piece.to ?? from + Math.round((frames - 1) / piece.times);
  if (loop) return { from, to, loop, frames, before: Infinity, after: Infinity };
  // A cut can be made anywhere in its take; a clip has what its recipe leaves beside it.
  const [before, after] = takeFrames === null ? [start, motion.frames - start - frames] : [from, takeFrames - 1 - to];
  return { from, to, loop, frames, before, after };
}

/** The point by which two pieces were put over each other, on the floor. */
function placeOf({ leaving, by }: Joined['meets'][number]): readonly [number, number] {
  const body = bodyOf(leaving);
  const f = leaving.frames >> 1;
  const { positions, joints } = forwardKinematics(leaving);
  const joint = body ? (by === 'hips' ? body.hips : body.legs[by === 'left foot' ? 'left' : 'right'].ankle) : 0;
  return [positions[(f * joints + joint) * 3], positions[(f * joints + joint) * 3 + 2]];
}
