import { bestApart, commonParts, gridDistances, pairDistance, pairSide, windowOf, type NearPair } from '../find/pair-distances';
import { quantile } from '../math/statistics';
import type { Groundwork } from '../measure/groundwork';
import { cutMotion, type Motion } from '../model/motion';
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
  /** How long the overlap is that was tried: as asked, or longer where that was out of bounds. */
  readonly frames: number;
  /** What they meet by. */
  readonly foot: MetBy;
  readonly poseCm: number;
  readonly popCm: number;
  readonly slideCm: number;
}

export interface FittingSearch {
  readonly candidates: readonly Fitting[];
  /** The pairs most alike, before any was joined. */
  readonly nearest: readonly NearPair[];
  /** How many pairs of instants were compared. */
  readonly pairs: number;
}

/** A join that is worse is said to be out of bounds. */
export const JOIN_BOUNDS = { popCm: 1, slideCm: 0.2 } as const;
/** So many times as many pairs are tried as are proposed; and at the most, where they are out of bounds, this many. */
const TRIED = 2;
/** Frames a second of the first pass. */
const COARSE = 20;
/** So many pairs of frames are compared in the second pass, about as many instants of the first as that makes, or at least some. */
const REFINED = 9000;
const FEWEST = 150;
/** More pairs of instants are not held against each other in the first pass. */
const MOST_CELLS = 4e6;
/** Instants of one motion that are nearer than this are the same, seconds. */
const SAME = 0.3;
/** A join that is tried keeps so much of both motions, seconds. */
const AROUND = 1.6;

/**
 * The best instants at which one motion can follow another, by the aligned distance of pose and velocity over a window; the best ones are joined, and what
 * that comes to is measured.
 *
 * @param into how the join is to be made
 * @param most candidates
 * @param reach frames of both in which instants may meet; all of them unless given
 *
 * @example
 * whereTheyFit(ground, ground, joinIntoSchema.parse({}), 3).candidates.length; // 3
 */
export function whereTheyFit(
  a: Groundwork,
  b: Groundwork,
  into: JoinInto = joinIntoSchema.parse({}),
  most = 10,
  reach?: Reach,
): FittingSearch {
  const half = into.frames >> 1;
  const open = ({ motion }: Groundwork, own?: readonly [number, number]): readonly [number, number] => [
    Math.max(half, own?.[0] ?? 0),
    Math.min(motion.frames - 1 - (into.frames - half), own?.[1] ?? Infinity),
  ];
  const nearest = nearestPairs(a, b, Math.max(20, TRIED * most), { a: open(a, reach?.a), b: open(b, reach?.b) });
  const candidates: Fitting[] = [];
  for (const pair of most > 0 ? nearest : []) {
    // Where none of those is within bounds that were to be tried, more are.
    if (candidates.length >= TRIED * most && candidates.some((own) => lackOf(own) === 0)) break;
    candidates.push(bestTried(a, b, pair, into));
  }
  candidates.sort((p, q) => lackOf(p) - lackOf(q) || p.poseCm - q.poseCm);
  return { candidates: candidates.slice(0, most), nearest, pairs: a.motion.frames * b.motion.frames };
}

/** How far a join is out of its bounds: those that are within come before all others, by how alike the poses are. */
const lackOf = ({ popCm, slideCm }: Fitting): number =>
  Math.max(0, popCm / JOIN_BOUNDS.popCm - 1) + Math.max(0, slideCm / JOIN_BOUNDS.slideCm - 1);

/** Frames of both in which instants may meet. */
export interface Reach {
  readonly a: readonly [number, number];
  readonly b: readonly [number, number];
}

/**
 * The pairs of instants that are most alike, each apart from the others: instants of the one, a twentieth of a second apart, are held against those of the
 * other; about the nearest, all frames are.
 */
function nearestPairs(a: Groundwork, b: Groundwork, most: number, { a: [a0, a1], b: [b0, b1] }: Reach): NearPair[] {
  const { fps } = a.motion;
  if (a1 < a0 || b1 < b0) return [];
  const parts = commonParts(a, b);
  const [p, q] = [pairSide(a, parts), pairSide(b, parts)];
  // Of takes so long that a grid would not fit into memory, fewer instants.
  const fine = Math.max(1, Math.round(fps / COARSE));
  const step = Math.max(fine, Math.ceil(Math.sqrt(((a1 - a0) * (b1 - b0)) / MOST_CELLS)));
  const counts = [Math.floor((a1 - a0) / step) + 1, Math.floor((b1 - b0) / step) + 1] as const;
  const distances = gridDistances(p, q, { from: [a0, b0], counts, step });
  // A motion can follow itself at the same instant: that is no join.
  const trivial = a === b ? SAME * fps : -1;
  const isOpen = (x: number, y: number) => x >= a0 && x <= a1 && y >= b0 && y <= b1 && Math.abs(x - y) > trivial;
  const window = windowOf(fps);
  const seen = new Map<number, NearPair>();
  const look = (fa: number, fb: number): void => {
    const key = fa * b.motion.frames + fb;
    if (isOpen(fa, fb) && !seen.has(key)) seen.set(key, { a: fa, b: fb, distance: pairDistance(p, fa, q, fb, window) });
  };
  // Where a valley is likely to be deepest first, then all frames about the deepest of those.
  const { least, rowBy, columnBy } = leastWithin(distances, counts[1]);
  for (const cell of lowest(least, Math.max(FEWEST, Math.round((4 * REFINED) / (step * step)))))
    look(
      a0 + Math.round((Math.floor(cell / counts[1]) + rowBy[cell]) * step),
      b0 + Math.round(((cell % counts[1]) + columnBy[cell]) * step),
    );
  const first = [...seen.values()];
  const reach = step >> 1;
  for (const at of lowest(
    Float64Array.from(first, ({ distance }) => distance),
    Math.max(FEWEST, Math.round(REFINED / (2 * step * step))),
  ))
    for (let x = -reach; x <= reach; x++) for (let y = -reach; y <= reach; y++) look(first[at].a + x, first[at].b + y);
  const pairs = [...seen.values()];
  return bestApart(pairs, fps, most);
}

/**
 * What the least distance between a place of a grid and those next to it is likely to be, and how far from the place, in rows and columns: from the paraboloid
 * that the squares about it lie on.
 */
function leastWithin(distances: Float64Array, columns: number): { least: Float64Array; rowBy: Float32Array; columnBy: Float32Array } {
  const rows = distances.length / columns;
  const squares = distances.map((d) => d * d);
  const least = new Float64Array(distances.length);
  const [rowBy, columnBy] = [new Float32Array(distances.length), new Float32Array(distances.length)];
  for (let r = 0; r < rows; r++) {
    const up = Math.max(0, r - 1) * columns,
      down = Math.min(rows - 1, r + 1) * columns;
    for (let c = 0; c < columns; c++) {
      const left = Math.max(0, c - 1),
        right = Math.min(columns - 1, c + 1),
        at = r * columns + c;
      const own = squares[at],
        n = squares[up + c],
        s = squares[down + c],
        w = squares[r * columns + left],
        e = squares[r * columns + right];
      const mixed = (squares[down + right] - squares[down + left] - squares[up + right] + squares[up + left]) / 4;
      const gr = (s - n) / 2,
        gc = (e - w) / 2;
      const hr = s - 2 * own + n,
        hc = e - 2 * own + w;
      const det = hr * hc - mixed * mixed;
      const isBowl = hr > 0 && det > 0;
      const dr = isBowl ? Math.min(0.5, Math.max(-0.5, (mixed * gc - hc * gr) / det)) : -0.5 * Math.sign(gr);
      const dc = isBowl ? Math.min(0.5, Math.max(-0.5, (mixed * gr - hr * gc) / det)) : -0.5 * Math.sign(gc);
      least[at] = own + gr * dr + gc * dc + (hr * dr * dr + hc * dc * dc) / 2 + mixed * dr * dc;
      rowBy[at] = dr;
      columnBy[at] = dc;
    }
  }
  return { least, rowBy, columnBy };
}

/** Where the least of some numbers are. */
function lowest(values: Float64Array, count: number): number[] {
  if (values.length <= count) return Array.from(values.keys());
  const bound = quantile(values, count / values.length);
  return Array.from(values.keys()).filter((i) => values[i] <= bound);
}

/** Overlaps that are tried where the one asked for is out of bounds, times as long, and the longest, seconds. */
const LONGER = [1.6, 2.2];
const LONGEST = 0.8;

/** The join that a pair would give; out of bounds, with a longer overlap if that is better. */
function bestTried(a: Groundwork, b: Groundwork, pair: NearPair, into: JoinInto): Fitting {
  let best = tried(a, b, pair, into);
  for (const times of LONGER) {
    const frames = Math.min(Math.round(times * into.frames), Math.round(LONGEST * a.motion.fps));
    const half = frames >> 1;
    const hasRoom = (motion: Motion, f: number) => f >= half && f + frames - half < motion.frames;
    if (lackOf(best) === 0 || frames <= best.frames || !hasRoom(a.motion, pair.a) || !hasRoom(b.motion, pair.b)) continue;
    const longer = tried(a, b, pair, { ...into, frames });
    if (lackOf(longer) < lackOf(best)) best = longer;
  }
  return best;
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
  return { a: fa, b: fb, frames: into.frames, foot: figures.by, poseCm: distance * 100, popCm: figures.popCm, slideCm: figures.slideCm };
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
