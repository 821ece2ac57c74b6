import { capture } from '@lantern/capture';
import {
  cutMotion,
  groundwork,
  JOIN_BOUNDS,
  joinIntoSchema,
  segments,
  whereTheyFit,
  type Groundwork,
  type JoinInto,
  type SegmentKind,
} from '@lantern/motion';
import { bestApart, commonParts, pairDistance, pairSide, windowOf } from '../packages/motion/src/find/pair-distances';

/** What the pair table joins. */
export const PAIRED = ['stroll', 'jog', 'hush', 'start', 'stop', 'turn', 'hop', 'wait'] as const;
export type Paired = (typeof PAIRED)[number];

/** What somebody does on a seed: a whole take, or the stretch of one in which he starts, stops or turns. */
function doing(what: Paired, seed: number, seconds = 8): Groundwork {
  const script = {
    stroll: 'walk',
    jog: 'jog',
    hush: 'hush',
    start: 'start-stop',
    stop: 'start-stop',
    turn: 'turn',
    hop: 'hop',
    wait: 'idle',
  } as const;
  const { motion } = capture(script[what], { seconds, seed });
  const found = groundwork(motion);
  if (!found) throw new Error('nobody is there');
  const kind = (['start', 'stop', 'turn'] as readonly string[]).includes(what) ? (what as SegmentKind) : null;
  const stretch = kind && segments(found).find((own) => own.kind === kind);
  if (!stretch) return found;
  // A second on either side goes along.
  const cut = groundwork(cutMotion(motion, Math.max(0, stretch.from - 60), Math.min(motion.frames - 1, stretch.to + 60)));
  if (!cut) throw new Error('nobody is there');
  return cut;
}

/** The join that is proposed first, over some seeds. */
export interface PairFigures {
  readonly a: Paired;
  readonly b: Paired;
  readonly seeds: number;
  readonly slideCm: readonly number[];
  readonly popCm: readonly number[];
  readonly poseCm: readonly number[];
  /** Seeds on which it is out of bounds. */
  readonly out: readonly number[];
}

export function pairFigures(a: Paired, b: Paired, seeds: readonly number[], into: JoinInto = joinIntoSchema.parse({})): PairFigures {
  const all = seeds.map((seed) => ({ seed, best: whereTheyFit(doing(a, seed), doing(b, seed + 1000), into, 3).candidates.at(0) }));
  const found = all.flatMap(({ seed, best }) => (best ? [{ seed, ...best }] : []));
  const sorted = (of: (one: (typeof found)[number]) => number) => found.map(of).sort((p, q) => p - q);
  return {
    ...{ a, b, seeds: found.length },
    slideCm: sorted((one) => one.slideCm),
    popCm: sorted((one) => one.popCm),
    poseCm: sorted((one) => one.poseCm),
    out: found.filter(({ slideCm, popCm }) => slideCm > JOIN_BOUNDS.slideCm || popCm > JOIN_BOUNDS.popCm).map(({ seed }) => seed),
  };
}

/** The search beside every pair of instants held against each other: times, and how many of the best ten are the same within three frames. */
export function searchBeside(a: Paired, b: Paired, seed: number): { readonly ms: number; readonly allMs: number; readonly same: number } {
  const [p, q] = [doing(a, seed, 10), doing(b, seed + 1000, 10)];
  const into = joinIntoSchema.parse({});
  whereTheyFit(p, q, into, 1);
  const start = performance.now();
  const near = whereTheyFit(p, q, into, 0);
  const ms = performance.now() - start;
  const before = performance.now();
  const parts = commonParts(p, q);
  const [x, y] = [pairSide(p, parts), pairSide(q, parts)];
  const window = windowOf(p.motion.fps);
  const half = into.frames >> 1;
  const every = [];
  for (let f = half; f < p.motion.frames - half; f++)
    for (let g = half; g < q.motion.frames - half; g++) every.push({ a: f, b: g, distance: pairDistance(x, f, y, g, window) });
  const best = bestApart(every, p.motion.fps, 10);
  const allMs = performance.now() - before;
  const own = near.nearest.slice(0, 10);
  const same = best.filter((one) => own.some((other) => Math.abs(other.a - one.a) <= 3 && Math.abs(other.b - one.b) <= 3)).length;
  return { ms, allMs, same };
}

/** `npx tsx benchmarks/joins.ts 50`: the pair table over so many seeds. */
if (process.argv[1]?.endsWith('joins.ts')) {
  const seeds = Array.from({ length: Number(process.argv[2] ?? 50) }, (_, k) => 7000 + k);
  const of = (sorted: readonly number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;
  for (const a of PAIRED)
    for (const b of PAIRED) {
      const { slideCm, popCm, poseCm, out } = pairFigures(a, b, seeds);
      const say = (sorted: readonly number[], digits: number) => `${of(sorted, 0.5).toFixed(digits)}/${of(sorted, 0.99).toFixed(digits)}`;
      console.log(
        `${`${a} > ${b}`.padEnd(16)} slide ${say(slideCm, 2)}  pop ${say(popCm, 2)}  pose ${say(poseCm, 1)} cm  out ${out.length}${out.length > 0 ? ` (${out.slice(0, 4).join(' ')})` : ''}`,
      );
    }
}
