import { SIDES, type PlayClip } from './play-set';
import { strideTable } from './strides';

/** Instants of a clip with the strides that are over by then: whole numbers at left landings, halves at right ones; straight between them. */
export interface ClipPhase {
  readonly seconds: Float64Array;
  readonly strides: Float64Array;
  /** Strides that a cycle of a loop has; 0 of what is no loop. */
  readonly round: number;
}

/** A half stride lasts about so long where a clip has too few steps to tell, seconds. */
const HALF = 0.5;
/** Feet that land within this time of one another land together: a hop, which has no phase. */
const TOGETHER = 0.06;

/** The strides of a clip, read off its landings; null where it has no steps. */
export function clipPhase(clip: PlayClip, isLoop: boolean): ClipPhase | null {
  if (isLoop) {
    const table = strideTable(clip);
    if ('why' in table) return null;
    const { starts, lengths, strides } = table;
    // One cycle, from the first left landing on to the same again.
    const seconds = new Float64Array(starts.length + 1);
    seconds[0] = starts[0];
    for (let k = 0; k < starts.length; k++) seconds[k + 1] = seconds[k] + lengths[k];
    return { seconds, strides: seconds.map((_, k) => k / 2), round: strides };
  }
  const landings = SIDES.flatMap((_, side) =>
    // A foot that is on the floor at the first key has not landed in the clip.
    clip.contacts[SIDES[side]].filter(([from]) => from > 1.5 / clip.fps).map(([at]) => ({ side, at })),
  ).sort((a, b) => a.at - b.at);
  if (landings.length === 0) return null;
  if (landings.some(({ at, side }, i) => i > 0 && side !== landings[i - 1].side && at - landings[i - 1].at < TOGETHER)) return null;
  const seconds = Float64Array.from(landings, ({ at }) => at);
  const strides = new Float64Array(landings.length);
  landings.forEach(({ side }, i) => {
    strides[i] = i === 0 ? 1 + side / 2 : strides[i - 1] + (side === landings[i - 1].side ? 1 : 0.5);
  });
  return { seconds, strides, round: 0 };
}

/** Strides at an instant: its part behind the point is the phase. */
export function stridesAt({ seconds, strides, round }: ClipPhase, t: number): number {
  const last = seconds.length - 1;
  if (round > 0) {
    const cycle = seconds[last] - seconds[0];
    const turns = Math.floor((t - seconds[0]) / cycle);
    return turns * round + within(seconds, strides, t - turns * cycle);
  }
  if (last === 0) return strides[0] + (t - seconds[0]) / (2 * HALF);
  // Before its first landing as quick as after it; after its last one as quick as before it.
  return within(seconds, strides, t);
}

/** The first instant, from 0 on, at which a clip is at a phase; NaN when it is never, or only once its last step is over. */
export function whenAtPhase(phases: ClipPhase, phase: number): number {
  const { seconds, strides, round } = phases;
  const from = stridesAt(phases, 0);
  const ahead = phase - from - Math.floor(phase - from);
  const wanted = from + (ahead > 1 - 1e-6 ? 0 : ahead);
  if (round === 0 && wanted > strides[strides.length - 1] + 0.25) return NaN;
  if (round === 0 && seconds.length === 1) return Math.max(0, seconds[0] + (wanted - strides[0]) * 2 * HALF);
  if (round === 0) return Math.max(0, within(strides, seconds, wanted));
  const turns = Math.floor((wanted - strides[0]) / round);
  const cycle = seconds[seconds.length - 1] - seconds[0];
  const t = within(strides, seconds, wanted - turns * round) + turns * cycle;
  return t - cycle * Math.floor(t / cycle);
}

/** Straight between knots that rise; before the first and after the last as between the two next to it. */
function within(xs: Float64Array, ys: Float64Array, x: number): number {
  let k = 1;
  while (k < xs.length - 1 && x >= xs[k]) k++;
  return ys[k - 1] + ((x - xs[k - 1]) * (ys[k] - ys[k - 1])) / (xs[k] - xs[k - 1]);
}
