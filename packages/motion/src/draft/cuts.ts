import { findLoops, type LoopCandidate } from '../find/loops';
import { proposals } from '../find/proposals';
import { segments } from '../find/segments';
import type { Groundwork } from '../measure/groundwork';
import { shakeMm } from '../measure/shake';
import { strideFrames } from '../measure/strides';
import { clipTraits, type ClipTraits } from '../set/clip-traits';
import { applyStep, stepSchema } from '../steps';
import { cutClip } from '../model/clip';
import { ledgesOf } from './ledges';
import { pivotsOf } from './pivots';
import { strollsOf } from './strolls';

/** A cut of a take that might fill a slot. */
export interface Cut {
  readonly take: string;
  /** Frames of the take, both included. */
  readonly from: number;
  readonly to: number;
  readonly isLoop: boolean;
  /** Of a loop: the foot that it begins with, and how far its ends are apart as they were captured, cm. */
  readonly startsOn: 'left' | 'right' | null;
  readonly seamCm: number;
  /** How much the suit trembled in its take, mm. */
  readonly shakeMm: number;
  /** What it is, as it was captured; a loop closed. */
  readonly traits: ClipTraits;
  /** Something went wrong with the try that it is of: why it should rather not be taken. */
  readonly fault: string | null;
}

/** Loops that are looked at in a stretch of a take, best first. */
const MOST_LOOPS = 4;
const CLOSED = stepSchema.parse({ kind: 'loop' });

/**
 * What a take offers for a set: of every stretch its best cycles, of starts, stops, turns, hops, pivots and steps of the ground the whole of them.
 *
 * @param take what cuts call it
 */
export function cutsOf(take: string, ground: Groundwork): Cut[] {
  const { motion } = ground;
  const { fps } = motion;
  const pivots = pivotsOf(ground);
  const strolls = strollsOf(
    ground,
    pivots.map(({ at }) => at),
  );
  const { candidates } = findLoops(ground, { most: 120 });
  const out: Cut[] = [];
  const shake = shakeMm(motion);
  const add = (from: number, to: number, loop: LoopCandidate | null) => {
    const isLoop = loop !== null;
    if (out.some((own) => own.from === from && own.to === to && own.isLoop === isLoop)) return;
    const cut = cutClip(motion, from, to);
    const traits = clipTraits(isLoop ? applyStep(cut, CLOSED) : cut);
    // Hops are taken from standing to standing.
    if (traits?.kind && !(isLoop && traits.kind === 'flight'))
      out.push({
        take,
        from,
        to,
        isLoop,
        startsOn: loop?.startsOn ?? null,
        seamCm: loop?.seam.poseCm ?? 0,
        shakeMm: shake,
        traits,
        fault: faultOf(strolls, from, to, fps),
      });
  };
  // Of every stretch its best cycles, a stride apart; of one who stands the whole of it.
  const stride = strideFrames(ground.contacts) ?? fps;
  for (const { from, to } of strolls.length > 0 ? strolls : [{ from: 0, to: motion.frames }]) {
    const kept: number[] = [];
    for (const own of candidates) {
      if (own.strides !== 1 || own.from < from || own.to > to || kept.length >= MOST_LOOPS) continue;
      if (kept.some((known) => Math.abs(known - own.from) < 0.4 * stride)) continue;
      kept.push(own.from);
      add(own.from, own.to, own);
    }
  }
  const parts = segments(ground);
  for (const own of candidates.filter(({ strides }) => strides === 0).slice(0, MOST_LOOPS)) add(own.from, own.to, own);
  for (const offer of proposals(ground, parts, candidates)) if (!offer.isLoop) add(offer.from, offer.to, null);
  for (const { from, to } of [...pivots, ...ledgesOf(ground)]) add(from, to, null);
  return out;
}

function faultOf(strolls: ReturnType<typeof strollsOf>, from: number, to: number, fps: number): string | null {
  const own = strolls.find((stroll) => from < stroll.to && to > stroll.from);
  if (own?.isCut) return 'the take begins in the midst of it';
  if (own && own.stumble !== null) return `he stumbles in it, at ${(own.stumble / fps).toFixed(1)} s`;
  return null;
}
