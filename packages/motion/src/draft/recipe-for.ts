import { withStep } from '../recipe/order';
import type { Slot } from '../set/slot';
import { stepSchema, type RecipeStep, type RecipeStepInput } from '../steps';

/** How the recipe of a slot is carried out; the first one that is within bounds is kept. */
export interface RecipeWay {
  /** Noise, spikes and gaps of the suit are taken out; by how much the noise is believed in. */
  readonly jitter: number;
  readonly close: 'blend' | 'around' | 'spread';
  /** The average of several strides instead of one of them. */
  readonly typical: boolean;
  /** Seconds that an end takes into the home pose. */
  readonly home: number;
  /** Seconds that a held foot takes from where it was captured, and back. */
  readonly blend: number;
}

const FIRST: RecipeWay = { jitter: 1, close: 'blend', typical: false, home: 0.6, blend: 0.2 };

/** Ways that are tried one after the other, each in words of what is other in it. */
export const WAYS: { readonly [kind in 'loop' | 'once']: readonly { readonly way: RecipeWay; readonly says: string }[] } = {
  loop: [
    { way: FIRST, says: '' },
    { way: { ...FIRST, typical: true }, says: 'the average of three strides' },
    { way: { ...FIRST, jitter: 2 }, says: 'cleaned twice as much' },
    { way: { ...FIRST, close: 'spread', jitter: 2 }, says: 'closed over the whole cycle' },
    { way: { ...FIRST, typical: true, jitter: 2, blend: 0.3 }, says: 'the average of three strides, cleaned twice as much' },
  ],
  once: [
    { way: FIRST, says: '' },
    { way: { ...FIRST, home: 0.3 }, says: 'quickly into home' },
    { way: { ...FIRST, home: 1 }, says: 'a second into home' },
    { way: { ...FIRST, jitter: 2 }, says: 'cleaned twice as much' },
    { way: { ...FIRST, jitter: 2, blend: 0.35, home: 0.8 }, says: 'feet led over longer' },
  ],
};

/** What the clip of a slot has to come to. */
export interface Wanted {
  readonly slot: Slot;
  /** Whom it is fitted to; null: nobody. */
  readonly character: string | null;
  readonly isMirrored: boolean;
  /** Metres a second; null leaves it as it is. */
  readonly mps: number | null;
  /** Metres over the floor, of what plays once. */
  readonly metres: number | null;
  /** Degrees, to the left where positive. */
  readonly turnDeg: number | null;
  /** Its ends meet the home pose of the set. */
  readonly meetsHome: boolean;
}

/** The steps that make the clip of a slot from a cut. */
export function recipeFor({ slot, character, isMirrored, mps, metres, turnDeg, meetsHome }: Wanted, way: RecipeWay): RecipeStep[] {
  const round = (value: number) => Number(value.toFixed(3));
  const steps: (RecipeStepInput | null)[] = [
    { kind: 'clean', jitter: way.jitter },
    character === null ? null : { kind: 'fit', character },
    isMirrored ? { kind: 'mirror' } : null,
    way.typical ? { kind: 'typical-cycle' } : null,
    isCycle(slot) ? { kind: 'loop', close: way.close } : null,
    mps === null ? null : { kind: 'speed', mps: round(mps) },
    metres === null ? null : { kind: 'exact-distance', metres: round(metres) },
    turnDeg === null ? null : { kind: 'exact-turn', turnDeg },
    meetsHome ? { kind: 'meet-home', seconds: way.home } : null,
    { kind: 'foot-lock', blend: way.blend },
    { kind: 'travel', start: 'origin' },
  ];
  return steps.reduce<RecipeStep[]>((recipe, step) => (step ? withStep(recipe, stepSchema.parse(step)) : recipe), []);
}

/** A clip of which nothing is asked. */
export const NOTHING = { character: null, isMirrored: false, mps: null, metres: null, turnDeg: null, meetsHome: false } as const;

const isCycle = (slot: Slot): boolean => slot.kind === 'loop' || slot.kind === 'arc' || slot.kind === 'idle';
/** The ways in which a slot's clip can be made, the first one first. */
export const waysOf = (slot: Slot) => WAYS[isCycle(slot) ? 'loop' : 'once'];
export const firstWay = (slot: Slot): RecipeWay => waysOf(slot)[0].way;
