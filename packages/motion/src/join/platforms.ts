import { median } from '../math/statistics';
import { groundwork, type Groundwork } from '../measure/groundwork';
import type { Interval } from '../model/contacts';
import type { StageProp } from '../model/prop';
import type { Joined } from './joined';

/** Ground that much over the floor, metres, is somewhere to stand on. */
const LEAST = 0.03;
/** Contacts at heights that differ by no more stand on one thing, metres. */
const SAME = 0.03;
/** So much further than the feet it goes, metres: to the sides, ahead, and behind as far as nobody stands there. */
const BESIDE = 0.28;
const AHEAD = 0.35;
const BEHIND = 0.1;
const APART = 0.01;
/** A foot so much lower than the block is not over it, metres. */
const CLEAR = 0.003;
const SIDES = ['left', 'right'] as const;

/** A contact by where its sole was: x, y, z of all its points, metres. */
interface Stand {
  readonly interval: Interval;
  readonly points: readonly (readonly [number, number, number])[];
  /** Of the sole, over the floor. */
  readonly height: number;
}

/**
 * What the feet stand on where shifts have raised the ground: a block under the contacts that follow each other at one height, its near edge as far before
 * the heels that land as no foot on its way goes through it.
 *
 * @example
 * const cut = { take: 'a', from: 20, to: 200, shifts: [{ at: 60, raise: 0.2 }] };
 * const joined = buildJoin(joinSchema.parse({ name: 'up', pieces: [cut] }), { clip: () => null, take: () => motion });
 * platforms(joined).map(({ height }) => Number(height.toFixed(1))); // [0.2]
 */
export function platforms({ motion, contacts, levels }: Joined): StageProp[] {
  const found = groundwork(motion);
  if (!found || levels.length === 0) return [];
  const stands = SIDES.flatMap((side) => contacts[side].map((interval) => standOf(found, side, interval, contacts.floorM))).sort(
    (a, b) => a.interval.from - b.interval.from,
  );
  const groups: Stand[][] = [];
  for (const stand of stands) {
    if (stand.height < LEAST) continue;
    const last = groups.at(-1);
    if (last && Math.abs(last[0].height - stand.height) < SAME) last.push(stand);
    else groups.push([stand]);
  }
  return groups.map((group, i) => blockUnder(found, group, stands, contacts.floorM, `ground-${i + 1}`));
}

function standOf({ soles }: Groundwork, side: 'left' | 'right', interval: Interval, floorM: number): Stand {
  const { heel, ball, tip } = soles[side];
  const points: [number, number, number][] = [];
  const lowest: number[] = [];
  for (let f = interval.from; f < Math.min(interval.to, heel.length / 3); f++) {
    for (const track of [heel, ball, tip]) points.push([track[f * 3], track[f * 3 + 1], track[f * 3 + 2]]);
    lowest.push(Math.min(heel[f * 3 + 1], ball[f * 3 + 1], tip[f * 3 + 1]));
  }
  return { interval, points, height: lowest.length > 0 ? median(lowest) - floorM : 0 };
}

function blockUnder(
  { headings, soles }: Groundwork,
  group: readonly Stand[],
  all: readonly Stand[],
  floorM: number,
  id: string,
): StageProp {
  const facing = headings[Math.min(headings.length - 1, group[0].interval.from)];
  const [s, c] = [Math.sin(facing), Math.cos(facing)];
  const along = ([x, , z]: readonly [number, number, number]) => x * s + z * c;
  const aside = ([x, , z]: readonly [number, number, number]) => x * c - z * s;
  const height = median(group.map((stand) => stand.height));
  const points = group.flatMap((stand) => stand.points);
  const [back, front] = [Math.min(...points.map(along)), Math.max(...points.map(along))];
  // Nobody who stands lower, or is on his way, is to have his feet in it.
  const first = group[0].interval.from;
  const leaves = all.filter(({ interval }) => interval.from < first && !group.some((own) => own.interval === interval)).at(-1);
  let nearest = -Infinity;
  for (const side of SIDES)
    for (const track of [soles[side].heel, soles[side].ball, soles[side].tip])
      for (let f = Math.max(0, (leaves?.interval.from ?? first) - 1); f < first; f++) {
        const point = [track[f * 3], track[f * 3 + 1], track[f * 3 + 2]] as const;
        if (point[1] - floorM < height - CLEAR) nearest = Math.max(nearest, along(point));
      }
  const from = Math.min(back - CLEAR, Math.max(back - BEHIND, nearest + APART));
  const [left, right] = [Math.min(...points.map(aside)) - BESIDE, Math.max(...points.map(aside)) + BESIDE];
  const [u, v] = [(from + front + AHEAD) / 2, (left + right) / 2];
  return {
    ...{ id, kind: 'box', height },
    x: u * s + v * c,
    z: u * c - v * s,
    turn: Math.atan2(s, c),
    width: right - left,
    depth: front + AHEAD - from,
  };
}
