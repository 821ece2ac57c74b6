import type { FINGERS } from '../anatomy/parts';
import { minus, norm, plus, times, turned, vecAt } from '../math/vec';
import type { Body, Side } from '../model/body';
import { childrenOf, type Skeleton } from '../model/skeleton';
import { capsule, type Buffers } from './body-mesh';
import type { StandingPose } from './canonical-pose';
import { fingersOf } from './find-fingers';

type Finger = (typeof FINGERS)[number];

/** The joints of the fingers of a hand, each from its knuckle. */
export type Fingers = ReadonlyMap<Finger, readonly number[]>;

/** How thick a finger is at its knuckle, metres for a stature of 1.78; its tip is four fifths of that. */
const THICK: Readonly<Record<Finger, number>> = { Thumb: 0.0112, Index: 0.0095, Middle: 0.0098, Ring: 0.0093, Little: 0.0082 };

/** Fingers are seen from afar: as many corners as look round there. */
const COARSE = { round: 7, rings: 2 };

/** A thumb whose joint is no further from the wrist does not show where a thumb begins, metres for a stature of 1.78. */
const IN_WRIST = 0.01;

/** The fingers of both hands, as the joints that there are have them; without thumbs that lie in the wrist. */
export function fingersOfHands(
  skeleton: Skeleton,
  { arms }: Body,
  { positions }: StandingPose,
  scale: number,
): Readonly<Record<Side, Fingers>> {
  const of = ({ elbow, wrist }: Body['arms'][Side]): Fingers => {
    const found = fingersOf(skeleton, positions, elbow, wrist);
    const [thumb] = found.get('Thumb') ?? [];
    if (thumb !== undefined && norm(minus(vecAt(positions, thumb), vecAt(positions, wrist))) < IN_WRIST * scale) found.delete('Thumb');
    return found;
  };
  return { left: of(arms.left), right: of(arms.right) };
}

/** Whether a hand has fingers apart, and not all but the thumb in one. */
export const areApart = (fingers: Fingers): boolean => fingers.size - (fingers.has('Thumb') ? 1 : 0) > 1;

/** Sticks of wood from knuckle to tip, one a joint, of fingers that are apart and of every thumb. */
export function layFingers(skeleton: Skeleton, hands: Readonly<Record<Side, Fingers>>, pose: StandingPose, scale: number): Buffers {
  const out: Buffers = { positions: [], normals: [], indices: [], joints: [] };
  const children = childrenOf(skeleton);
  const place = (j: number) => vecAt(pose.positions, j);
  for (const fingers of Object.values(hands))
    for (const [finger, chain] of fingers) {
      if (finger !== 'Thumb' && !areApart(fingers)) continue;
      const thick = THICK[finger] * scale;
      chain.forEach((joint, i) => {
        const [from, next] = [place(joint), chain[i + 1] ?? children[joint][0]];
        const [tip] = skeleton.joints[joint].endSites;
        let to = next !== undefined ? place(next) : tip && plus(from, turned(pose.rotations, joint * 4, tip));
        // What ends without a tip goes on as it came.
        if (!to && i > 0) to = plus(from, times(minus(from, place(chain[i - 1])), 0.8));
        if (!to || norm(minus(to, from)) < 0.002 * scale) return;
        const radius = (at: number) => thick * (1 - (0.2 * at) / chain.length);
        const isLast = next === undefined;
        const end = isLast ? minus(to, times(minus(to, from), Math.min(0.6, radius(i + 1) / norm(minus(to, from))))) : to;
        capsule(out, joint, from, end, { from: radius(i), to: radius(i + 1) }, COARSE);
      });
    }
  return out;
}
