import type { Body } from '../model/body';
import { childrenOf, type Skeleton } from '../model/skeleton';

/** Parts that a person has and this skeleton has not, in words. Missing parts are fine; it is good to know of them. */
export function missingParts(skeleton: Skeleton, body: Body | null): string[] {
  if (!body) return ['two legs'];
  const out: string[] = [];
  const children = childrenOf(skeleton);
  const sides = (test: (side: 'left' | 'right') => boolean): string => {
    const found = (['left', 'right'] as const).filter(test);
    return found.length === 2 ? 'both' : (found[0] ?? '');
  };
  const toes = sides((side) => body.legs[side].toe < 0);
  if (toes) out.push(toes === 'both' ? 'toes' : `the ${toes} toes`);
  const feet = sides((side) => {
    const { ankle, toe } = body.legs[side];
    return toe < 0 && children[ankle].length === 0 && skeleton.joints[ankle].endSites.every((tip) => Math.hypot(...tip) < 1e-9);
  });
  if (feet) out.push(feet === 'both' ? 'feet' : `the ${feet} foot`);
  const arms = sides((side) => body.arms[side].shoulder < 0);
  if (arms) out.push(arms === 'both' ? 'arms' : `the ${arms} arm`);
  const hands = sides((side) => body.arms[side].wrist >= 0 && children[body.arms[side].wrist].length < 2);
  if (hands && !arms) out.push(hands === 'both' ? 'fingers' : `fingers of the ${hands} hand`);
  return out;
}
