import {
  features,
  findLoops,
  groundwork,
  recipeRunner,
  type Clip,
  type ClipRecipe,
  type Features,
  type Groundwork,
  type LoopSearch,
  type Motion,
} from '@lantern/motion';
import { castOf } from './cast';

/** Where a motion comes from, and whose it is. */
export interface Opening {
  /** What it goes by here: what it is, and how it is read. */
  readonly key: string;
  readonly project: string;
  /** Whom it is fitted to already; null where nobody. */
  readonly character: string | null;
  readonly load: () => Promise<Motion>;
  /** Whether its key says the same when the page is opened again. */
  readonly lasts: boolean;
}

/** A take that is held open, and what was worked out of it. */
export interface Held extends Pick<Opening, 'project' | 'character'> {
  readonly motion: Motion;
  readonly ground: Groundwork | null;
  readonly run: (recipe: ClipRecipe) => Clip;
  loops: LoopSearch | null;
  features: Features | null;
}

/** Samples (frames times joints) that are held open at a time; what was used longest ago is let go and opened again when it is wanted. */
const MOST_HELD = 20_000_000;
const openings = new Map<string, Opening>();

const held = new Map<string, Promise<Held>>();
const sizes = new Map<string, number>();

/** An open take, newest used last. */
export function takeOf(key: string): Promise<Held> {
  const opening = openings.get(key);
  if (!opening) return Promise.reject(new Error('The take is not open.'));
  const running = held.get(key) ?? hold(opening);
  held.delete(key);
  held.set(key, running);
  return running;
}

async function hold({ key, project, character, load }: Opening): Promise<Held> {
  try {
    const motion = await load();
    sizes.set(key, motion.frames * motion.skeleton.joints.length);
    letGo();
    return {
      project,
      character,
      motion,
      ground: groundwork(motion),
      run: recipeRunner(motion, castOf(project)),
      loops: null,
      features: null,
    };
  } catch (error) {
    held.delete(key);
    throw error;
  }
}

function letGo(): void {
  const total = () => [...held.keys()].reduce((sum, key) => sum + (sizes.get(key) ?? 0), 0);
  for (const key of [...held.keys()].slice(0, -1)) {
    if (total() <= MOST_HELD) return;
    held.delete(key);
  }
}

/** Features of a take for comparing its instants. */
export const featuresOf = (take: Held): Features | null => (take.features ??= take.ground && features(take.ground));

/** All loop candidates of a take; searched once. */
export function loopsOf(take: Held): LoopSearch {
  take.loops ??= take.ground ? findLoops(take.ground, { most: 2000 }) : { candidates: [], pairs: 0 };
  return take.loops;
}

/** Says how a motion is opened, for what follows, which calls it by its key: it is loaded when it is wanted. */
export function nameMotion(opening: Opening): void {
  openings.set(opening.key, opening);
}

/** How a motion that was named is opened. */
export const openingOf = (key: string): Opening | undefined => openings.get(key);
