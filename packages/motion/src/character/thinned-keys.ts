import { bodyOf } from '../anatomy/body-of';
import type { Clip } from '../model/clip';
import type { Motion } from '../model/motion';
import { thinKeys, type Thinned } from './thin-keys';

/** Worked out once for a motion and a bound: card, figures and files ask for the same. */
const KNOWN = new WeakMap<Motion, Map<string, Thinned>>();

/** What 16-bit rotations move a hand or a head at the most, metres; thinning leaves them this room. */
const ROUNDING_M = 0.0002;

/**
 * The keys that a clip is written with; null when it has one on every frame. Feet are held tighter where the clip says when they bear, and what they hang
 * on is never written as 16-bit numbers.
 *
 * @example
 * thinnedKeys(cutClip(motion, 0, 60)); // null
 */
export function thinnedKeys(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts' | 'thin'>): Thinned | null {
  if (!clip.thin) return null;
  const { boundM, joining } = clip.thin;
  const isQuantised = clip.thin.quantised === true && boundM > 2 * ROUNDING_M;
  const key = JSON.stringify([boundM, joining, isQuantised, clip.travel !== null, clip.contacts]);
  const all = KNOWN.get(clip.motion) ?? new Map<string, Thinned>();
  const found = all.get(key) ?? chosen(clip, boundM, joining, isQuantised);
  all.set(key, found);
  KNOWN.set(clip.motion, all);
  return found;
}

function chosen(
  clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>,
  boundM: number,
  joining: 'straight' | 'smooth',
  isQuantised: boolean,
): Thinned {
  const thinned = thinKeys(clip, clip.contacts ?? null, { boundM: isQuantised ? boundM - ROUNDING_M : boundM, joining });
  return isQuantised ? { ...thinned, quantised: besideFeet(clip.motion) } : thinned;
}

/** Joints that no foot hangs on: of somebody without legs none. */
function besideFeet(motion: Motion): ReadonlySet<number> {
  const body = bodyOf(motion);
  if (!body) return new Set();
  const { joints } = motion.skeleton;
  const bearing = new Set<number>();
  for (const { ankle, toe } of [body.legs.left, body.legs.right])
    for (const end of [ankle, toe]) for (let j = end; j >= 0; j = joints[j].parent) bearing.add(j);
  return new Set(joints.flatMap((_, j) => (bearing.has(j) ? [] : [j])));
}
