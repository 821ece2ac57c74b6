import { inner, minus, norm, plus, times, unit, vecAt } from '../math/vec';
import { jointWords } from '../anatomy/joint-words';
import { childrenOf, type Skeleton } from '../model/skeleton';
import { FINGERS } from '../anatomy/parts';

type Finger = (typeof FINGERS)[number];

/**
 * The fingers of a hand, each a chain from its knuckle: by name, else the branch that points most aside is the thumb and the others follow from
 * its side on. A hand with a single branch besides the thumb has them all in one, which goes by the middle finger.
 *
 * @param elbow where the forearm begins, which tells where a hand goes on to
 */
export function fingersOf(skeleton: Skeleton, positions: ArrayLike<number>, elbow: number, wrist: number): Map<Finger, number[]> {
  const out = new Map<Finger, number[]>();
  if (wrist < 0) return out;
  const children = childrenOf(skeleton);
  const from = vecAt(positions, wrist);
  // What a hand holds reaches further than its fingers.
  const longest = elbow >= 0 ? norm(minus(from, vecAt(positions, elbow))) : Infinity;
  const reachOf = (chain: readonly number[]) => norm(minus(vecAt(positions, chain[chain.length - 1]), from));
  const branches = children[wrist]
    .filter((j) => jointWords(skeleton.joints[j].name).helper === null)
    .map((j) => {
      const chain = [j];
      for (let next = children[j]; next.length > 0; next = children[chain[chain.length - 1]]) chain.push(next[0]);
      return chain.filter((k) => jointWords(skeleton.joints[k].name).helper !== 'tip');
    })
    .filter((chain) => chain.length > 0 && reachOf(chain) <= longest);
  const unnamed: number[][] = [];
  for (const chain of branches) {
    const { part } = jointWords(skeleton.joints[chain[0]].name);
    const finger = FINGERS.find((name) => name === part);
    if (finger && !out.has(finger)) out.set(finger, chain);
    else unnamed.push(chain);
  }
  if (unnamed.length === 0) return out;
  const direction = (chain: readonly number[]) => unit(minus(vecAt(positions, chain[chain.length - 1]), from));
  const forearm = elbow >= 0 ? unit(minus(from, vecAt(positions, elbow))) : null;
  const all = unit(unnamed.map(direction).reduce((sum, d) => plus(sum, d)));
  // Two branches lie alike about their own middle.
  const along = forearm && inner(forearm, all) > 0.5 ? unit(plus(forearm, all)) : all;
  const aside = (chain: readonly number[]) => norm(minus(direction(chain), times(along, inner(direction(chain), along))));
  const sorted = [...unnamed].sort((a, b) => aside(b) - aside(a));
  if (!out.has('Thumb') && sorted.length > 1 && aside(sorted[0]) > 0.3) out.set('Thumb', sorted.shift() ?? []);
  const thumb = out.get('Thumb');
  const toThumb = thumb ? unit(minus(vecAt(positions, thumb[thumb.length - 1]), from)) : along;
  const free = FINGERS.slice(1).filter((finger) => !out.has(finger));
  const ordered = sorted.sort((a, b) => inner(direction(b), toThumb) - inner(direction(a), toThumb));
  if (ordered.length === 1 && free.includes('Middle')) out.set('Middle', ordered[0]);
  else ordered.slice(0, free.length).forEach((chain, i) => out.set(free[i], chain));
  return out;
}
