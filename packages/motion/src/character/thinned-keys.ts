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
export function thinnedKeys(clip: Thinnable): Thinned | null {
  if (!clip.thin) return null;
  const all = KNOWN.get(clip.motion) ?? new Map<string, Thinned>();
  const key = keyOf(clip);
  const found = all.get(key) ?? chosen(clip, clip.thin);
  all.set(key, found);
  KNOWN.set(clip.motion, all);
  return found;
}

type Thinnable = Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts' | 'thin'>;

/** Notes keys that were chosen for a clip before, as when it was kept with them. */
export function rememberThinned(clip: Thinnable, thinned: Thinned): void {
  KNOWN.set(clip.motion, (KNOWN.get(clip.motion) ?? new Map<string, Thinned>()).set(keyOf(clip), thinned));
}

const keyOf = ({ thin, travel, contacts }: Thinnable): string => JSON.stringify([thin, travel !== null, contacts]);

function chosen(clip: Thinnable, { boundM, joining, quantised }: NonNullable<Clip['thin']>): Thinned {
  const isQuantised = quantised === true && boundM > 2 * ROUNDING_M;
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
