import { FIELD_BOUNDS, type Sounding } from '@lantern/motion';
import { contours } from 'd3-contour';
import { GRID, type GridPlace } from './use-field';

/** What is written into the chart. */
export const DEPTHS = ['slide', 'speed', 'turn', 'knees'] as const;
export type Depth = (typeof DEPTHS)[number];

export const DEPTH_WORDS: Readonly<
  Record<Depth, { readonly title: string; readonly unit: string; readonly bound: number; readonly of: (sounding: Sounding) => number }>
> = {
  slide: { title: 'slide', unit: 'mm', bound: FIELD_BOUNDS.slideMm, of: ({ slideMm }) => slideMm },
  speed: { title: 'speed off', unit: '%', bound: FIELD_BOUNDS.speed * 100, of: ({ at, got }) => Math.abs(got[0] / at[0] - 1) * 100 },
  turn: { title: 'turn off', unit: '°/s', bound: FIELD_BOUNDS.turnDegS, of: ({ at, got }) => Math.abs(got[1] - (at[1] ?? 0)) },
  knees: { title: 'knees', unit: '×', bound: FIELD_BOUNDS.kink, of: ({ kink }) => kink },
};

/** Shares of the bound at which the chart grows darker. */
const SHARES = [1 / 6, 1 / 3, 2 / 3, 1] as const;

export const thresholdsOf = (depth: Depth): readonly number[] => SHARES.map((share) => share * DEPTH_WORDS[depth].bound);

/** Contours of depth in columns and rows of the grid: for each threshold the rings of what is at least so much. */
export function contoursOf(
  soundings: ReadonlyMap<number, Sounding>,
  depth: Depth,
): { readonly value: number; readonly rings: readonly (readonly [number, number][])[] }[] {
  if (soundings.size < 6) return [];
  const { of } = DEPTH_WORDS[depth];
  const known = [...soundings].map(([index, sounding]) => ({ i: Math.floor(index / GRID), j: index % GRID, value: of(sounding) }));
  // Outside of the clips, and where nothing is sounded yet, the nearest sounding stands.
  const values = Array.from({ length: GRID * GRID }, (_, index) => {
    const [i, j] = [Math.floor(index / GRID), index % GRID];
    const own = soundings.get(index);
    if (own) return of(own);
    return known.reduce((a, b) => ((b.i - i) ** 2 + (b.j - j) ** 2 < (a.i - i) ** 2 + (a.j - j) ** 2 ? b : a)).value;
  });
  return contours()
    .size([GRID, GRID])
    .smooth(true)
    .thresholds([...thresholdsOf(depth)])(values)
    .map(({ value, coordinates }) => ({
      value,
      rings: coordinates.flatMap((polygon) => polygon.map((ring) => ring.map(([x, y]): [number, number] => [x - 0.5, y - 0.5]))),
    }));
}

/** A place where the field is out of bounds, the worst of those that lie together. */
export interface Shallow {
  readonly sounding: Sounding;
  readonly places: number;
}

/** Soundings that are out of bounds, those beside one another as one; the worst first. */
export function shallowsOf(grid: readonly GridPlace[], soundings: ReadonlyMap<number, Sounding>): Shallow[] {
  const out = new Set(grid.map(({ index }) => index).filter((index) => soundings.get(index)?.isOut));
  const shallows: Shallow[] = [];
  while (out.size > 0) {
    const [first] = out;
    const together: number[] = [];
    const open = [first];
    out.delete(first);
    for (let index = open.pop(); index !== undefined; index = open.pop()) {
      together.push(index);
      for (const next of [index - 1, index + 1, index - GRID, index + GRID]) if (out.delete(next)) open.push(next);
    }
    const all = together.flatMap((index) => soundings.get(index) ?? []);
    shallows.push({ sounding: all.reduce((a, b) => (badness(b) > badness(a) ? b : a)), places: all.length });
  }
  return shallows.sort((a, b) => badness(b.sounding) - badness(a.sounding));
}

/** How far out of its bounds a sounding is: the worst of its figures. */
export const badness = (sounding: Sounding): number =>
  Math.max(...DEPTHS.map((depth) => DEPTH_WORDS[depth].of(sounding) / DEPTH_WORDS[depth].bound));

/** Which figure of a sounding is farthest out. */
export const worstOf = (sounding: Sounding): Depth =>
  DEPTHS.reduce((a, b) =>
    DEPTH_WORDS[b].of(sounding) / DEPTH_WORDS[b].bound > DEPTH_WORDS[a].of(sounding) / DEPTH_WORDS[a].bound ? b : a,
  );

/** What to capture for a place, in words: `a jog at 2.1 m/s turning 40 °/s to the left`. */
export function clipFor([speed, second = 0]: readonly number[], inputs: readonly string[]): string {
  const gait = speed < 0.9 ? 'a hush-walk' : speed < 2.05 ? 'a walk' : speed < 3.3 ? 'a jog' : 'a dash';
  const side = second > 0 ? 'left' : 'right';
  const how =
    inputs[1] === 'turn' && Math.abs(second) >= 3
      ? ` turning ${Math.abs(second).toFixed(0)} °/s to the ${side}`
      : inputs[1] === 'direction' && Math.abs(second) >= 10
        ? ` ${Math.abs(second).toFixed(0)}° to the ${side} of the facing`
        : '';
  return `${gait} at ${speed.toFixed(1)} m/s${how}`;
}
