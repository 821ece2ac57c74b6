import { clipTraits } from '../set/clip-traits';
import { contractSchema, type Contract } from '../set/contract';
import type { Slot } from '../set/slot';
import type { Run } from './choose';
import type { Cut } from './cuts';
import { rankCuts } from './rank-cuts';
import { NOTHING, recipeFor, WAYS, type Wanted } from './recipe-for';

/** How much faster the character goes than the performer: in the ratio of their legs. */
export function scaleOf(cuts: readonly Cut[], character: string | null, run: Run): number {
  const loop = cuts.find(({ isLoop, traits, fault }) => isLoop && traits.speedMps > 0.3 && !fault);
  if (character === null || !loop) return 1;
  const bare: Wanted = { ...NOTHING, slot: { kind: 'idle' }, character };
  const fitted = run(loop, recipeFor(bare, WAYS.loop[0].way));
  const traits = fitted && clipTraits(fitted);
  return traits ? traits.speedMps / loop.traits.speedMps : 1;
}

/** To these parts of a metre a second speeds of the day are rounded. */
const STEP = 0.05;

/** A speed for every gait and direction that the set has a loop for: as the game asks, else what the day has, rounded. */
export function contractOf(slots: readonly Slot[], cuts: readonly Cut[], scale: number, asked: Contract): Contract {
  const speeds: Record<string, Record<string, number>> = { ...asked.speedMps };
  for (const slot of slots) {
    if (slot.kind !== 'loop' || slot.speedMps !== undefined || speeds[slot.gait]?.[slot.direction] !== undefined) continue;
    const [best] = rankCuts(slot, cuts, { slots: [...slots], contract: asked }, scale);
    if (!best) continue;
    const mps = Math.max(2 * STEP, Math.round((best.cut.traits.speedMps * scale) / STEP) * STEP);
    speeds[slot.gait] = { ...speeds[slot.gait], [slot.direction]: Number(mps.toFixed(2)) };
  }
  return contractSchema.parse({ ...asked, speedMps: speeds });
}
