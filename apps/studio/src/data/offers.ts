import { fills, slotId, slotName, type ClipTraits, type Contract, type Proposal, type RecipeStep, type Slot } from '@lantern/motion';
import { core } from '@/worker/core';
import { defaultSteps } from './new-clip';
import type { TakeInfo } from './project';
import { ensureOpen, takeKey } from './use-open-take';

/** Something in a take that would fill a slot. */
export interface Offer {
  readonly id: string;
  readonly slot: string;
  /** What the clip would be called. */
  readonly name: string;
  readonly take: TakeInfo;
  readonly proposal: Proposal;
  readonly traits: ClipTraits;
  /** Less is better. */
  readonly cost: number;
}

/** What takes are held against. */
export interface Wanted {
  readonly slots: readonly Slot[];
  readonly contract: Contract;
  readonly character: string | null;
  /** Puts what is settled for a take's suit into steps. */
  readonly whole: (steps: readonly RecipeStep[], take: TakeInfo) => readonly RecipeStep[];
}

/** How much a tick counts beside a slide in centimetres. */
const TICK = 0.2;

/** What a take offers for slots: each proposal of it as the clip that it would be, measured; one after the other as they are known. */
export async function* offersOf(take: TakeInfo, { slots, contract, character, whole }: Wanted): AsyncGenerator<Offer> {
  await ensureOpen(take);
  const key = takeKey(take);
  const { proposals } = await core().reading(key);
  for (const proposal of proposals) {
    const { from, to, isLoop, name } = proposal;
    const steps = whole(defaultSteps(isLoop, character ?? ''), take);
    const traits = await core().setTraits({ id: '', name, take: key, recipe: { from, to, steps } });
    if ('problem' in traits) continue;
    for (const slot of slots) {
      const off = fills(slot, traits, contract);
      if (off === null) continue;
      const { slideCm, tick, loop } = traits.figures;
      const cost = off + slideCm + (loop ? TICK * tick : 0);
      yield { id: `${take.id} ${from} ${slotId(slot)}`, slot: slotId(slot), name: slotName(slot), take, proposal, traits, cost };
    }
  }
}
