import type { Leg } from '../model/body';
import { chainOf, forkOf, type Look } from './body-look';
import type { LimbChain } from './limb-choice';

/** The two legs that were found: where they hang, their ends, and their joints. */
interface StandingLegs {
  readonly hips: number;
  readonly leaves: readonly [number, number];
  readonly a: Leg;
  readonly b: Leg;
}

/** Ends of legs are as low as this share of the height. */
const AS_LOW = 0.2;
/** A leg is at least this share of the longer two. */
const AS_LONG = 0.5;

/** Two more limbs stand on the floor in the most upright frame, and no name says that they are arms. */
export function isFourLegged(look: Look, leaves: readonly number[], legs: StandingLegs): boolean {
  const { skeleton, words, paths, height, low, high } = look;
  const reachOf = ({ joints, tip }: LimbChain) => joints.slice(1).reduce((sum, j) => sum + Math.hypot(...skeleton.joints[j].offset), tip);
  const long = AS_LONG * reachOf(chainOf(look, legs.leaves[0], legs.hips));
  const isArm = (j: number) => ['UpperArm', 'Forearm', 'Hand'].includes(words[j].part ?? '');
  const more = new Set<number>();
  for (const leaf of leaves) {
    if (legs.leaves.includes(leaf) || height(leaf) > low + AS_LOW * (high - low) || paths[leaf].some(isArm)) continue;
    const forks = legs.leaves.map((other) => forkOf(look, leaf, other));
    const chain = chainOf(
      look,
      leaf,
      forks.reduce((p, q) => (paths[q].length > paths[p].length ? q : p)),
    );
    // Of what hangs from a leg itself, a heel or a second toe, nothing is counted; of a limb that ends in toes, one end.
    const fromLeg = [legs.a, legs.b].some(({ hip }) => paths[leaf].includes(hip));
    const limb = chain.joints.findLast(
      (_, i) => i < chain.joints.length - 1 && reachOf({ joints: chain.joints.slice(i), tip: 0 }) >= long / 2,
    );
    if (!fromLeg && chain.joints.length > 2 && reachOf(chain) >= long && limb !== undefined) more.add(limb);
  }
  return more.size >= 2;
}
