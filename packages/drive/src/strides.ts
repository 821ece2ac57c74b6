import { SIDES, type PlayClip, type Side } from './play-set';

/** Half strides of a clip by its landings: what brings clips into step. */
export interface StrideTable {
  /** Whole strides in a cycle. */
  readonly strides: number;
  /** Seconds at which each half stride begins, left ones first; the first may be later than 0, and the last goes round. */
  readonly starts: Float64Array;
  /** Seconds that each half stride lasts. */
  readonly lengths: Float64Array;
  /** Seconds that the foot that lands at each half stride stays down. */
  readonly stances: Float64Array;
}

/** A cycle cannot be brought into step: why, in a sentence. */
export interface OutOfStep {
  readonly why: string;
}

/**
 * The half strides of a loop, begun at a left landing.
 *
 * @example
 * strideTable(walk); // { strides: 1, starts: [0.1, 0.65], lengths: [0.55, 0.55], stances: [0.68, 0.67] }
 */
export function strideTable(clip: PlayClip): StrideTable | OutOfStep {
  const cycle = (clip.frames - 1) / clip.fps;
  if (!clip.loop) return { why: `“${clip.name}” is no loop.` };
  const landings: { side: Side; at: number; stance: number }[] = [];
  for (const side of SIDES) {
    for (const [from, to] of clip.contacts[side]) {
      // A foot that stands all the time does not land.
      if (to - from >= cycle - 1e-6) continue;
      const at = ((from % cycle) + cycle) % cycle;
      landings.push({ side, at, stance: Math.min(to - from, cycle * 0.98) });
    }
  }
  landings.sort((a, b) => a.at - b.at);
  if (landings.length < 2) return { why: `“${clip.name}” has no steps.` };
  const first = landings.findIndex(({ side }) => side === 'left');
  if (first < 0) return { why: `The left foot never lands in “${clip.name}”.` };
  const turned = [...landings.slice(first), ...landings.slice(0, first)];
  for (const [i, { side }] of turned.entries())
    if (side !== SIDES[i % 2]) return { why: `In “${clip.name}” the ${side} foot lands twice in a row.` };
  if (turned.length % 2 !== 0) return { why: `In “${clip.name}” the left foot lands once more than the right.` };
  const starts = Float64Array.from(turned, ({ at }) => at);
  const lengths = starts.map((at, i) => (((starts[(i + 1) % starts.length] - at) % cycle) + cycle) % cycle || cycle);
  return { strides: turned.length / 2, starts, lengths, stances: Float64Array.from(turned, ({ stance }) => stance) };
}
