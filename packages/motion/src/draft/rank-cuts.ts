import { fills } from '../set/fills';
import { nearestSlot } from '../set/coverage';
import type { LocomotionSet } from '../set/schema';
import { slotId, slotOnOtherSide, type Slot } from '../set/slot';
import type { ClipTraits } from '../set/clip-traits';
import type { Cut } from './cuts';

/** A cut in the running for a slot. */
export interface Ranked {
  readonly cut: Cut;
  /** It is of the other side, and seen in the mirror. */
  readonly isMirrored: boolean;
  /** Less is better; its parts, each about 1 where it begins to be seen. */
  readonly cost: number;
  readonly parts: Readonly<Record<CostPart, number>>;
}

/**
 * What a cut is chosen by: how its ends meet (of a loop), how steady the pace is, whether it begins with a left landing, how much its feet slide as captured,
 * how much the suit trembled, and how far it is from the speed or angle asked.
 */
export const COST_PARTS = ['seam', 'steadiness', 'phase', 'slide', 'noise', 'contract'] as const;
export type CostPart = (typeof COST_PARTS)[number];

/** A fault of a try weighs more than all else. */
const FAULT = 100;
/** What is seen in the mirror stands behind what is there. */
const MIRRORED = 10;

/**
 * The cuts that may fill a slot, best first: those whose nearest slot it is, then those of its other side in the mirror.
 *
 * @param scale of the character's legs against the performer's: speeds change with it
 */
export function rankCuts(slot: Slot, cuts: readonly Cut[], set: Pick<LocomotionSet, 'slots' | 'contract'>, scale: number): Ranked[] {
  const id = slotId(slot);
  const other = slotOnOtherSide(slot);
  return cuts
    .flatMap((cut): Ranked[] => {
      const { speedMps, legM } = cut.traits;
      const traits: ClipTraits = { ...cut.traits, speedMps: speedMps * scale, legM: legM && legM * scale };
      const nearest = nearestSlot(set, traits)?.id ?? null;
      const own = nearest === id ? fills(slot, traits, set.contract) : null;
      // What fills the other side's slot, whether the set has that or not.
      const off = own ?? (other ? fills(other, traits, set.contract) : null);
      if (off === null) return [];
      const parts = partsOf(cut, off);
      const sum = COST_PARTS.reduce((total, part) => total + parts[part], 0);
      const isMirrored = own === null;
      return [{ cut, isMirrored, parts, cost: sum + (cut.fault ? FAULT : 0) + (isMirrored ? MIRRORED : 0) }];
    })
    .sort((a, b) => a.cost - b.cost || a.cut.take.localeCompare(b.cut.take) || a.cut.from - b.cut.from);
}

function partsOf({ traits, seamCm, shakeMm, isLoop, startsOn }: Cut, off: number): Ranked['parts'] {
  return {
    seam: isLoop ? seamCm / 3 : 0,
    steadiness: isLoop ? (traits.figures.asymmetryCm ?? 0) / 6 : 0,
    phase: isLoop && startsOn === 'right' ? 0.15 : 0,
    slide: traits.figures.slideCm / 3,
    noise: shakeMm / 3,
    contract: off,
  };
}

/** Why a cut stands behind another: the part of the cost that speaks most against it. */
export function whyBehind(own: Ranked, best: Ranked): string {
  if (own.cut.fault && !best.cut.fault) return own.cut.fault;
  if (own.isMirrored && !best.isMirrored) return 'it is of the other side';
  const worst = COST_PARTS.reduce((a, b) => (own.parts[b] - best.parts[b] > own.parts[a] - best.parts[a] ? b : a));
  return own.parts[worst] - best.parts[worst] > 0.02 ? SAYS[worst] : 'as good';
}

const SAYS: Readonly<Record<CostPart, string>> = {
  seam: 'its ends meet less well',
  steadiness: 'its two halves are less alike',
  phase: 'it begins with the right foot',
  slide: 'its feet slid more when it was captured',
  noise: 'the suit trembled more',
  contract: 'it is farther from what is asked',
};
