import type { Clip } from '../model/clip';
import type { HomePose } from '../model/home-pose';
import { clipTraits, type ClipTraits } from '../set/clip-traits';
import { slotSpeed } from '../set/contract';
import { faultsOf, totalOf } from '../set/coverage';
import { fills } from '../set/fills';
import { homeEndsOf } from '../set/home';
import type { LocomotionSet } from '../set/schema';
import type { Slot } from '../set/slot';

/** A finished clip held against its slot and the bounds of its set. */
export interface Judged {
  readonly traits: ClipTraits;
  /** Figures as shares of their bounds, added up. */
  readonly cost: number;
  /** Figures that are out of bounds, in words; empty where all are within. */
  readonly out: readonly string[];
}

/** @returns null where the clip is something else than its slot asks for */
export function judge(clip: Clip, slot: Slot, home: HomePose | null, set: Pick<LocomotionSet, 'bounds' | 'contract'>): Judged | null {
  const traits = clipTraits(clip);
  const off = traits && fills(slot, traits, set.contract);
  if (!traits || off === null) return null;
  const ends = home ? homeEndsOf(clip, traits, home) : [];
  const faults = faultsOf({ traits }, ends, 0, slotSpeed(slot, set.contract), set);
  const own = Object.values(faults);
  const out = own.filter(({ share }) => share > 1).map(({ words }) => words);
  if (traits.seconds > set.bounds.seconds) out.push(`it lasts ${traits.seconds.toFixed(1)} s`);
  return { traits, cost: totalOf(faults) + off * 0.1, out };
}
