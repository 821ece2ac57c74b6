import { clipTraits, InputError, type Clip, type ClipRecipe, type Motion, type SetClip, type Skeleton } from '@lantern/motion';
import { LRUCache } from 'lru-cache';
import { fingerprintOf, openCastOf } from './cast';
import { withCast } from './fit-api';
import { openingOf } from './held';
import type { keptClips } from './kept-clips';

/** A clip of a set as the worker is asked for it. */
export interface SetClipAsked {
  readonly id: string;
  readonly name: string;
  /** Its take, or join, by its key. */
  readonly take: string;
  readonly recipe: ClipRecipe;
}

/**
 * Clips of a set, run and measured once each: in this visit, or in an earlier one where it was kept.
 *
 * @param kept what the browser keeps from one visit to the next
 */
export function madeClips(kept: ReturnType<typeof keptClips>) {
  const known = new LRUCache<string, SetClip | string>({ max: 400 });
  const skeletons = new LRUCache<string, Skeleton>({ max: 20 });

  async function one({ id, name, take, recipe }: SetClipAsked): Promise<SetClip | string> {
    const key = JSON.stringify([take, recipe]);
    const clip = known.get(key) ?? (await keptOrMade(take, recipe));
    known.set(key, clip);
    return typeof clip === 'string' ? clip : { ...clip, id, name };
  }

  async function keptOrMade(take: string, recipe: ClipRecipe): Promise<SetClip | string> {
    const opening = openingOf(take);
    if (!opening?.lasts || !(await kept.canKeep())) return make(take, recipe);
    await openCastOf(opening.project, recipe.steps);
    const key = JSON.stringify([take, recipe, await fingerprintOf(opening.project, recipe.steps)]);
    const found = await kept.find(key);
    if (found) return { id: '', name: '', ...found, clip: onOneSkeleton(found.clip) };
    const clip = await make(take, recipe);
    if (typeof clip !== 'string') void kept.keep(key, { clip: clip.clip, traits: clip.traits });
    return clip;
  }

  /** What was worked out of a skeleton is known by the object: clips that came back one by one share one again. */
  function onOneSkeleton(clip: Clip): Clip {
    const key = JSON.stringify(clip.motion.skeleton);
    const skeleton = skeletons.get(key) ?? clip.motion.skeleton;
    skeletons.set(key, skeleton);
    const on = (motion: Motion): Motion => (motion.skeleton === clip.motion.skeleton ? { ...motion, skeleton } : motion);
    return { ...clip, motion: on(clip.motion), lead: clip.lead && on(clip.lead), tail: clip.tail && on(clip.tail) };
  }

  return {
    /** One clip; a sentence where it cannot be. */
    one,
    /** All of them; those that cannot be are left out. */
    async all(asked: readonly SetClipAsked[]): Promise<SetClip[]> {
      const made: SetClip[] = [];
      for (const own of asked) {
        const clip = await one(own);
        if (typeof clip !== 'string') made.push(clip);
      }
      return made;
    },
  };
}

async function make(take: string, recipe: ClipRecipe): Promise<SetClip | string> {
  try {
    const { run } = await withCast(take, recipe.steps);
    const clip = run(recipe);
    const traits = clipTraits(clip);
    return traits ? { id: '', name: '', clip, traits } : 'It is no person’s, so nothing is known of its feet.';
  } catch (error) {
    if (error instanceof InputError) return error.message;
    throw error;
  }
}
