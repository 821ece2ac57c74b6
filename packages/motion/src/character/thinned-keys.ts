import type { Clip } from '../model/clip';
import type { Motion } from '../model/motion';
import { thinKeys, type Thinned } from './thin-keys';

/** Worked out once for a motion and a bound: card, figures and files ask for the same. */
const KNOWN = new WeakMap<Motion, Map<string, Thinned>>();

/**
 * The keys that a clip is written with; null when it has one on every frame. Feet are held tighter where the clip says when they bear.
 *
 * @example
 * thinnedKeys(cutClip(motion, 0, 60)); // null
 */
export function thinnedKeys(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts' | 'thin'>): Thinned | null {
  if (!clip.thin) return null;
  const { boundM, joining } = clip.thin;
  const key = JSON.stringify([boundM, joining, clip.travel !== null, clip.contacts]);
  const all = KNOWN.get(clip.motion) ?? new Map<string, Thinned>();
  const found = all.get(key) ?? thinKeys(clip, clip.contacts ?? null, { boundM, joining });
  all.set(key, found);
  KNOWN.set(clip.motion, all);
  return found;
}
