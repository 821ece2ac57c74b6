import { features } from '../find/features';
import { bestApart, commonParts, pairDistance, pairSide, windowOf, type NearPair } from '../find/pair-distances';
import type { Groundwork } from '../measure/groundwork';
import { cutMotion } from '../model/motion';
import { joinFigures } from './figures';
import { joinPieces } from './join-pieces';
import type { MetBy } from './line-up';
import type { LaidPiece } from './piece';
import { joinIntoSchema, type JoinInto } from './schema';

/** A place where a motion can follow another: the instants that meet in the middle of the overlap, and what the join comes to. */
export interface Fitting {
  /** Frame of the one that leaves, and of the one that comes. */
  readonly a: number;
  readonly b: number;
  /** What they meet by. */
  readonly foot: MetBy;
  readonly poseCm: number;
  readonly popCm: number;
  readonly slideCm: number;
}

export interface FittingSearch {
  readonly candidates: readonly Fitting[];
  /** How many pairs of instants were compared. */
  readonly pairs: number;
}

/** Frames a second of the first pass. */
const COARSE = 20;
/** Valleys of the first pass that are looked at closely. */
const VALLEYS = 60;
/** A join that is tried keeps so much of both motions, seconds. */
const AROUND = 1.6;

/**
 * The best instants at which one motion can follow another. Every pair is compared, first coarsely by features; about the nearest, by the aligned distance of
 * pose and velocity over a window; the best ones are joined, and what that comes to is measured.
 *
 * @param into how the join is to be made
 * @param most candidates
 *
 * @example
 * whereTheyFit(ground, ground, joinIntoSchema.parse({}), 3).candidates.length; // 3
 */
export function whereTheyFit(a: Groundwork, b: Groundwork, into: JoinInto = joinIntoSchema.parse({}), most = 10): FittingSearch {
  const half = into.frames >> 1;
  const nearest = nearestPairs(a, b, most, { a: [half, a.motion.frames - 1 - half], b: [half, b.motion.frames - 1 - half] });
  const candidates = nearest.map((pair) => tried(a, b, pair, into));
  return { candidates, pairs: a.motion.frames * b.motion.frames };
}

/** Frames of both in which instants may meet. */
interface Reach {
  readonly a: readonly [number, number];
  readonly b: readonly [number, number];
}

/** The pairs of instants that are most alike, each apart from the others. */
export function nearestPairs(a: Groundwork, b: Groundwork, most: number, { a: [a0, a1], b: [b0, b1] }: Reach): NearPair[] {
  const { fps } = a.motion;
  const step = Math.max(1, Math.round(fps / COARSE));
  const valleys = coarseValleys(a, b, step, [a0, a1], [b0, b1]);
  const parts = commonParts(a, b);
  const [p, q] = [pairSide(a, parts), pairSide(b, parts)];
  const window = windowOf(fps);
  const within = (low: number, high: number, f: number) => Math.min(high, Math.max(low, f));
  const refined = valleys.map(({ a: i, b: j }): NearPair => {
    let [x, y] = [i, j];
    let best = pairDistance(p, x, q, y, window);
    // Down the valley: to the nearest of the eight about it, as long as one is nearer.
    for (let reach = step; reach >= 1;) {
      let [bx, by] = [x, y];
      for (const dx of [-reach, 0, reach])
        for (const dy of [-reach, 0, reach]) {
          const [u, v] = [within(a0, a1, x + dx), within(b0, b1, y + dy)];
          const d = pairDistance(p, u, q, v, window);
          if (d < best) [best, bx, by] = [d, u, v];
        }
      if (bx === x && by === y) reach = Math.floor(reach / 2);
      else [x, y] = [bx, by];
    }
    return { a: x, b: y, distance: best };
  });
  return bestApart(refined, fps, most);
}

/** Pairs that are nearer by their features than those about them, the nearest first, every few frames. */
function coarseValleys(
  a: Groundwork,
  b: Groundwork,
  step: number,
  [a0, a1]: readonly [number, number],
  [b0, b1]: readonly [number, number],
): NearPair[] {
  const [p, q] = [features(a), features(b)];
  const width = Math.min(p.width, q.width);
  const [rows, columns] = [Math.max(0, Math.floor((a1 - a0) / step) + 1), Math.max(0, Math.floor((b1 - b0) / step) + 1)];
  const map = new Float32Array(rows * columns);
  for (let r = 0; r < rows; r++) {
    const i = (a0 + r * step) * p.width;
    for (let c = 0; c < columns; c++) {
      const j = (b0 + c * step) * q.width;
      let sum = 0;
      for (let k = 0; k < width; k++) {
        const d = p.values[i + k] - q.values[j + k];
        sum += d * d;
      }
      map[r * columns + c] = sum;
    }
  }
  const valleys: NearPair[] = [];
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const here = map[r * columns + c];
      let isLowest = true;
      for (let y = Math.max(0, r - 1); y <= Math.min(rows - 1, r + 1) && isLowest; y++)
        for (let x = Math.max(0, c - 1); x <= Math.min(columns - 1, c + 1); x++) if (map[y * columns + x] < here) isLowest = false;
      if (isLowest) valleys.push({ a: a0 + r * step, b: b0 + c * step, distance: here });
    }
  return valleys.sort((x, y) => x.distance - y.distance).slice(0, VALLEYS);
}

/** The join that a pair would give, and its figures. */
function tried(a: Groundwork, b: Groundwork, { a: fa, b: fb, distance }: NearPair, into: JoinInto): Fitting {
  const around = Math.round(AROUND * a.motion.fps);
  const [before, after] = [into.frames >> 1, into.frames - (into.frames >> 1)];
  const leaving = pieceOf(a, Math.max(0, fa - around), fa + after);
  const coming = pieceOf(b, fb - before, Math.min(b.motion.frames - 1, fb + around));
  const [figures] = joinFigures(
    joinPieces(
      [leaving, coming].map((piece) => ({ piece, into })),
      'captured',
    ),
  );
  return { a: fa, b: fb, foot: figures.by, poseCm: distance * 100, popCm: figures.popCm, slideCm: figures.slideCm };
}

/** Some frames of a motion as a piece, with what lies beside them. */
function pieceOf({ motion, contacts }: Groundwork, from: number, to: number): LaidPiece {
  const beside = Math.round(0.6 * motion.fps);
  const [first, last] = [Math.max(0, from - beside), Math.min(motion.frames - 1, to + beside)];
  const own = (all: readonly { readonly from: number; readonly to: number }[]) =>
    all
      .map((one) => ({ from: Math.max(first, one.from) - first, to: Math.min(last + 1, one.to) - first }))
      .filter((one) => one.to > one.from);
  return {
    motion: cutMotion(motion, first, last),
    start: from - first,
    frames: to - from + 1,
    contacts: { ...contacts, left: own(contacts.left), right: own(contacts.right) },
    seams: [],
  };
}
