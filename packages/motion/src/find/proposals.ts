import type { Groundwork } from '../measure/groundwork';
import type { LoopCandidate } from './loops';
import { tagsOf, type ClipTags } from './clip-names';
import { footfallsIn, type Segment } from './segments';
import { uprightFrom } from './upright';

/** A clip that the program would cut. */
export interface Proposal {
  readonly name: string;
  readonly tags: ClipTags;
  /** Frames of the take, both included. */
  readonly from: number;
  readonly to: number;
  readonly isLoop: boolean;
  /** What of the take it is cut from. */
  readonly segment: Segment;
}

/** Cycles are proposed of these, the rest is cut as it is. */
const CYCLIC: ReadonlySet<Segment['kind']> = new Set(['walk', 'run', 'sneak', 'idle']);
/** Stillness kept before a start and after a stop, seconds. */
const STILL_SECONDS = 0.25;

/** A start is that of the gait that follows it, a stop that of the gait before it. */
function tagsWithin(segment: Segment, near: Segment | undefined): ClipTags {
  return tagsOf(segment, near && CYCLIC.has(near.kind) && near.kind !== 'idle' ? near.kind : null);
}

/** A stand of which no two instants are alike enough is taken as a whole, without its edges, if it lasts. */
function wholeStand({ from, to }: Segment, fps: number): { from: number; to: number } | null {
  const edge = Math.round(0.4 * fps);
  return to - from - 2 * edge >= 2 * fps ? { from: from + edge, to: Math.min(to - edge, from + edge + 10 * fps) } : null;
}

/**
 * Clips that a take offers: of every gait and stance its best cycle, of starts, stops and turns the whole of them from footfall to
 * footfall, of hops from standing upright to standing upright. Names are of what was measured, made unique by a number; the same gait in
 * several places is proposed once, where it loops best.
 *
 * @param loops candidates of the take, best first
 *
 * @example
 * proposals(ground, segments(ground), findLoops(ground).candidates).some(({ isLoop }) => isLoop); // true
 */
export function proposals(ground: Groundwork, found: readonly Segment[], loops: readonly LoopCandidate[]): Proposal[] {
  const { contacts, motion } = ground;
  const { fps, frames } = motion;
  const out: Proposal[] = [];
  const cycles = new Map<string, { proposal: Proposal; score: number }>();
  found.forEach((segment, i) => {
    const tags = tagsWithin(segment, found[i + (segment.kind === 'stop' ? -1 : 1)]);
    const name = [tags.gait, tags.direction].filter(Boolean).join('-');
    if (CYCLIC.has(segment.kind)) {
      const best = loops.find(
        ({ from, to, strides }) => from >= segment.from - 2 && to <= segment.to + 2 && strides > 0 === (segment.kind !== 'idle'),
      );
      const cut = best ?? (segment.kind === 'idle' ? wholeStand(segment, fps) : null);
      const score = best?.score ?? 0;
      const known = cycles.get(name);
      if (!cut || (known && known.score >= score)) return;
      cycles.set(name, { score, proposal: { name, tags, from: cut.from, to: cut.to, isLoop: true, segment } });
      return;
    }
    if (segment.kind === 'flight') {
      const from = uprightFrom(ground, segment.from, -1, STILL_SECONDS);
      const to = uprightFrom(ground, segment.to, 1, STILL_SECONDS);
      out.push({ name, tags, from, to, isLoop: false, segment });
      return;
    }
    const still = Math.round(STILL_SECONDS * fps);
    const falls = footfallsIn(contacts, { from: 0, to: frames });
    const before = falls.findLast((f) => f <= segment.from && f > segment.from - fps);
    const after = falls.find((f) => f >= segment.to && f < segment.to + fps);
    // Who turns on the spot stands before it and after it.
    const isOnTheSpot = segment.kind === 'turn' && segment.direction === null;
    const isFromStand = segment.kind === 'start' || isOnTheSpot;
    const isToStand = segment.kind === 'stop' || isOnTheSpot;
    const from = isFromStand || before === undefined ? Math.max(0, segment.from - still) : before;
    const to = isToStand || after === undefined ? Math.min(frames - 1, segment.to + still) : after;
    if (to - from >= 2) out.push({ name, tags, from, to, isLoop: false, segment });
  });
  const all = [...[...cycles.values()].map(({ proposal }) => proposal), ...out].sort((a, b) => a.from - b.from);
  const seen = new Map<string, number>();
  return all.map((proposal) => {
    const count = (seen.get(proposal.name) ?? 0) + 1;
    seen.set(proposal.name, count);
    return count > 1 ? { ...proposal, name: `${proposal.name}-${count}` } : proposal;
  });
}
