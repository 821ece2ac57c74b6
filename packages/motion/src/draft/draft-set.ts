import { InputError } from '../error';
import type { Cast } from '../character/character';
import { withMapping } from '../fit/mapped-body';
import type { SavedFit } from '../fit/settings';
import { groundwork } from '../measure/groundwork';
import type { Motion } from '../model/motion';
import { skeletonSignature } from '../model/signature';
import { recipeRunner } from '../recipe/recipe';
import { mappingOf, withFits } from '../recipe/with-fits';
import { contractSchema, type Contract } from '../set/contract';
import { setBoundsSchema, type LocomotionSet, type SetBounds } from '../set/schema';
import { slotId, type Slot } from '../set/slot';
import { choose, spanOf, type DraftChoice, type Run } from './choose';
import { cutsOf, type Cut } from './cuts';
import { contractOf, scaleOf } from './day-speeds';
import { broughtHome, homeIn } from './home-in';
import { rankCuts } from './rank-cuts';
import type { Doubt } from './settle-take';

/** A take that a set is drafted from, in metres. */
export interface DraftTake {
  /** What clips call it. */
  readonly id: string;
  /** What people call it, where that is something else. */
  readonly name?: string;
  readonly motion: Motion;
}

export interface DraftOptions {
  readonly slots: readonly Slot[];
  /** Whom the clips are fitted to; null: nobody. */
  readonly character: string | null;
  /** The game's numbers; speeds that it leaves out are taken from the day. */
  readonly contract?: Contract;
  readonly bounds?: SetBounds;
  /** What is settled for suits and characters. */
  readonly fits?: readonly SavedFit[];
}

/** A set as it is drafted. */
export interface Draft {
  readonly choices: readonly DraftChoice[];
  readonly contract: Contract;
  readonly home: LocomotionSet['home'];
  readonly doubts: readonly Doubt[];
}

/** How much of it is done, 0 to 1, and with what it is busy. */
export interface DraftProgress {
  readonly share: number;
  readonly says: string;
}

/** Share of the time that reading takes into cuts takes. */
const READING = 0.3;

/**
 * A set from takes, without a hand on it: for every slot the best cut of all takes with the steps that bring it within bounds, seen in the mirror where only the other
 * side was captured.
 */
export function* draftSet(
  takes: readonly DraftTake[],
  cast: Cast,
  { slots, character, contract: asked, bounds = setBoundsSchema.parse({}), fits = [] }: DraftOptions,
): Generator<DraftProgress, Draft, void> {
  const cuts: Cut[] = [];
  const doubts: Doubt[] = [];
  for (const [i, { id, name: take = id, motion }] of takes.entries()) {
    yield { share: (READING * i) / takes.length, says: `Reading ${take}` };
    const ground = groundwork(motion);
    const own = ground ? cutsOf(id, ground) : [];
    if (!ground) doubts.push({ take, what: 'It is no person’s, so nothing is cut from it.' });
    else if (own.length === 0) doubts.push({ take, what: 'Nothing in it can be told apart that a set asks for.' });
    for (const fault of new Set(own.flatMap((cut) => cut.fault ?? []))) doubts.push({ take, what: `A try is left aside: ${fault}.` });
    cuts.push(...own);
  }
  const runners = new Map(
    takes.map(({ id, motion }) => {
      const signature = skeletonSignature(motion.skeleton);
      const run = recipeRunner(withMapping(motion, mappingOf(signature, fits)), cast);
      return [id, { run, signature, frames: motion.frames }];
    }),
  );
  const run: Run = (cut, steps, way) => {
    const runner = runners.get(cut.take);
    if (!runner) return null;
    try {
      return runner.run({ ...spanOf(cut, way, runner.frames), steps: withFits(steps, runner.signature, fits) });
    } catch (error) {
      // A way that cannot be gone is none.
      if (error instanceof InputError) return null;
      throw error;
    }
  };
  const framesOf = (take: string) => runners.get(take)?.frames ?? 0;
  const scale = scaleOf(cuts, character, run);
  const contract = contractOf(slots, cuts, scale, asked ?? contractSchema.parse({}));
  const set = { slots: [...slots], contract, bounds };
  const ranked = slots.map((slot) => rankCuts(slot, cuts, set, scale));
  const choosing = { character, set, run, framesOf };
  // The idle first: all other ends meet in its pose.
  const idleAt = slots.findIndex(({ kind }) => kind === 'idle');
  const idle = idleAt < 0 ? null : choose(slots[idleAt], ranked[idleAt], { ...choosing, home: null });
  const home = idle && homeIn(idle, slots, ranked, choosing);
  const choices: DraftChoice[] = [];
  for (const [i, slot] of slots.entries()) {
    yield { share: READING + ((1 - READING) * i) / slots.length, says: `Choosing for ${slotId(slot)}` };
    choices.push(
      i === idleAt && idle ? broughtHome(idle, slot, choosing, home) : choose(slot, ranked[i], { ...choosing, home: home?.pose ?? null }),
    );
  }
  return { choices, contract, home: home && idle?.clip ? { clip: idle.clip.name, frame: home.frame } : undefined, doubts };
}
