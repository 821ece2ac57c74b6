import { LRUCache } from 'lru-cache';
import { bodyOf, withBody } from '../anatomy/body-of';
import type { Cast } from '../character/character';
import { cutClip, type Clip } from '../model/clip';
import type { Motion } from '../model/motion';
import { applyStep, type RecipeStep } from '../steps';
import { givenWay, inPlaceAgain } from './in-place';

/** A clip as its owner describes it: a cut of a take (frames at the take's rate, both included) and the steps over it. */
export interface ClipRecipe {
  readonly from: number;
  readonly to: number;
  readonly steps: readonly RecipeStep[];
}

/** Clips that are remembered for a take. */
const MOST = 60;

/**
 * Runs recipes over one take and remembers every prefix, so that changing the last step runs only that. A cut of someone who walks on the spot is
 * worked on as if he went, and comes back in place.
 *
 * @param motion the take in metres, Y up
 * @param cast the characters that it may be fitted to, by what the steps call them; one that is once there never changes
 *
 * @example
 * recipeRunner(motion)({ from: 10, to: 40, steps: [] }).motion.frames; // 31
 */
export function recipeRunner(motion: Motion, cast: Cast = new Map()): (recipe: ClipRecipe) => Clip {
  const take = motion.skeleton.body === undefined ? withBody(motion, bodyOf(motion)) : motion;
  const known = new LRUCache<string, Clip>({ max: MOST });
  const remember = (key: string, make: () => Clip): Clip => {
    const clip = known.get(key) ?? make();
    known.set(key, clip);
    return clip;
  };
  return ({ from, to, steps }) => {
    let key = `${from}-${to}`;
    let clip = remember(key, () => givenWay(cutClip(take, from, to)));
    for (const step of steps) {
      key += JSON.stringify(step);
      const before = clip;
      clip = remember(key, () => applyStep(before, step, { cast }));
    }
    const found = clip;
    return found.belt ? remember(`${key} in place`, () => inPlaceAgain(found)) : found;
  };
}
