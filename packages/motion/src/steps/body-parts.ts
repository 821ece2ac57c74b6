import { pathTo } from '../anatomy/body-look';
import { swapSides } from '../anatomy/side-names';
import type { Body } from '../model/body';
import { childrenOf, type Skeleton } from '../model/skeleton';

/** Parts of a body that a step can be told to work on. */
export const BODY_PARTS = ['all', 'left arm', 'right arm', 'arms', 'left leg', 'right leg', 'legs', 'head', 'trunk'] as const;
export type BodyPart = (typeof BODY_PARTS)[number];

/** `left arm` and `right arm` change places; what lies in the middle stays. */
export const partOnOtherSide = (part: BodyPart): BodyPart => swapSides(part) as BodyPart;

/** The joints of a part: of a limb all that hangs from its first joint; the trunk is what lies between hips and neck. */
export function jointsOfPart(skeleton: Skeleton, { arms, legs, hips, chest, head }: Body, part: BodyPart): number[] {
  const limb = (first: number) => (first < 0 ? [] : hanging(skeleton, first));
  switch (part) {
    case 'all':
      return skeleton.joints.map((_, j) => j);
    case 'left arm':
    case 'right arm':
      return limb(arms[part === 'left arm' ? 'left' : 'right'].shoulder);
    case 'arms':
      return [...limb(arms.left.shoulder), ...limb(arms.right.shoulder)];
    case 'left leg':
    case 'right leg':
      return limb(legs[part === 'left leg' ? 'left' : 'right'].hip);
    case 'legs':
      return [...limb(legs.left.hip), ...limb(legs.right.hip)];
    case 'head':
      return pathTo(skeleton, head).filter((j) => j !== chest && pathTo(skeleton, j).includes(chest));
    case 'trunk':
      return pathTo(skeleton, chest).filter((j) => j !== hips && pathTo(skeleton, j).includes(hips));
  }
}

/** A joint and all that hangs from it. */
function hanging(skeleton: Skeleton, joint: number): number[] {
  const children = childrenOf(skeleton);
  const out = [joint];
  for (let i = 0; i < out.length; i++) out.push(...children[out[i]]);
  return out;
}
