import {
  applyOverrides,
  features,
  findLoops,
  groundwork,
  motionFromRows,
  recipeRunner,
  withMapping,
  type Clip,
  type ClipRecipe,
  type Features,
  type Groundwork,
  type LoopSearch,
  type Mapping,
  type Motion,
  type Passport,
  type Skeleton,
  type TakeOverrides,
} from '@lantern/motion';
import { castOf } from './cast';

/** What the worker needs to know of a take to open it. */
export interface TakeSource {
  /** What it goes by here: the take and how it is read. */
  readonly key: string;
  readonly project: string;
  readonly id: string;
  readonly skeleton: Skeleton;
  readonly fps: number;
  readonly moving: readonly number[];
  readonly passport: Pick<Passport, 'reading'>;
  readonly overrides: TakeOverrides;
  /** What a person has mapped by hand on skeletons of its suit. */
  readonly mapping: Mapping;
  /** Only some chunks of a long take. */
  readonly stretch?: Stretch;
}

/** Chunks of a take, from one on. */
export interface Stretch {
  readonly from: number;
  readonly chunks: number;
}

/** A take that is held open, and what was worked out of it. */
export interface Held {
  readonly project: string;
  readonly motion: Motion;
  readonly ground: Groundwork | null;
  readonly run: (recipe: ClipRecipe) => Clip;
  loops: LoopSearch | null;
  features: Features | null;
}

/** Samples (frames times joints) that are held open at a time; what was used longest ago is let go and opened again when it is wanted. */
const MOST_HELD = 20_000_000;
const sources = new Map<string, TakeSource>();

const held = new Map<string, Promise<Held>>();
const sizes = new Map<string, number>();

/** An open take, newest used last. */
export function takeOf(key: string): Promise<Held> {
  const source = sources.get(key);
  if (!source) return Promise.reject(new Error('The take is not open.'));
  const running = held.get(key) ?? load(source);
  held.delete(key);
  held.set(key, running);
  return running;
}

async function load(source: TakeSource): Promise<Held> {
  try {
    const { id, stretch } = source;
    const response = await fetch(`/api/takes/${id}/motion${stretch ? `?from=${stretch.from}&chunks=${stretch.chunks}` : ''}`);
    if (!response.ok) throw new Error('The take could not be loaded.');
    const rows = new Float32Array(await response.arrayBuffer());
    const raw = motionFromRows(rows, source.skeleton, source.fps, source.moving);
    const motion = withMapping(applyOverrides(raw, source.passport.reading, source.overrides), source.mapping);
    sizes.set(source.key, motion.frames * motion.skeleton.joints.length);
    letGo();
    const run = recipeRunner(motion, castOf(source.project));
    return { project: source.project, motion, ground: groundwork(motion), run, loops: null, features: null };
  } catch (error) {
    held.delete(source.key);
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

/** Opens a take for what follows, which calls it by its key. */
export async function openSource(source: TakeSource): Promise<void> {
  sources.set(source.key, source);
  await takeOf(source.key);
}
