import { jointWords } from './joint-words';
import { childrenOf, type Skeleton } from '../model/skeleton';

/**
 * The joints that hang from where a skeleton first branches into more than one thing and some end beside it: what stands above carries the whole, and
 * may stay behind where a take began, so that it says nothing of size and axes.
 */
export function mainJoints(skeleton: Skeleton): readonly number[] {
  const known = KNOWN.get(skeleton);
  if (known) return known;
  const children = childrenOf(skeleton);
  const ends = skeleton.joints.map(() => 0);
  for (let j = ends.length - 1; j >= 0; j--) {
    const isHelper = jointWords(skeleton.joints[j].name).helper === 'other';
    ends[j] = children[j].reduce((sum, child) => sum + ends[child], 0) || (isHelper ? 0 : 1);
  }
  let top = 0;
  for (;;) {
    const [most, ...others] = [...children[top]].sort((a, b) => ends[b] - ends[a]);
    if (most === undefined || others.reduce((sum, child) => sum + ends[child], 0) > 1) break;
    top = most;
  }
  const isMain = skeleton.joints.map(() => false);
  const out: number[] = [];
  skeleton.joints.forEach(({ parent }, j) => {
    isMain[j] = j === top || (parent >= 0 && isMain[parent]);
    if (isMain[j]) out.push(j);
  });
  // A single chain has no branch to begin with: all of it counts.
  const found = out.length > 1 ? out : skeleton.joints.map((_, j) => j);
  KNOWN.set(skeleton, found);
  return found;
}

const KNOWN = new WeakMap<Skeleton, readonly number[]>();
