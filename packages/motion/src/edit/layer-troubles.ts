import { bodyOf } from '../anatomy/body-of';
import { pathTo } from '../anatomy/body-look';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import type { Layer, Touch } from './layers';
import { touchingLimb } from './touch-limb';

/** What of some layers cannot be done, in sentences; all the rest of them is done. */
export function layerTroubles(layers: readonly Layer[], motion: Motion): string[] {
  const { joints } = motion.skeleton;
  const names = new Set(joints.map(({ name }) => name));
  return layers.flatMap((layer) => {
    const missing = [...new Set(layer.keys.map(({ joint }) => joint))].filter((name) => !names.has(name));
    const shifted = layer.keys.find(({ joint, shift }) => shift?.some((v) => v !== 0) && joint !== joints[0].name && names.has(joint));
    return [
      ...missing.map((name) => `Layer “${layer.name}” has keys of “${name}”, a joint that is not there; its other keys are done.`),
      ...(shifted ? [`Layer “${layer.name}” shifts “${shifted.joint}”; only “${joints[0].name}” can be shifted, others are turned.`] : []),
      ...sorted(layer, motion).refused.map(({ touch, why }) => `Layer “${layer.name}”, ${touch.limb} at frame ${touch.from}: ${why}`),
    ];
  });
}

/** The touches of a layer that can be done, those that others go by before them. */
export const soundTouches = (layer: Layer, motion: Motion): readonly Touch[] =>
  layer.touches.length === 0 ? [] : sorted(layer, motion).done;

interface Sorted {
  readonly done: readonly Touch[];
  readonly refused: readonly { readonly touch: Touch; readonly why: string }[];
}

function sorted({ touches }: Layer, motion: Motion): Sorted {
  const body = bodyOf(motion);
  const refused: { touch: Touch; why: string }[] = [];
  const sound = touches.filter((touch) => {
    const why = !body
      ? 'this is nobody’s skeleton, so it has no hands and feet.'
      : !touchingLimb(motion.skeleton, body, touch.limb, null)
        ? `this skeleton has no ${touch.limb} that could touch anything.`
        : targetTrouble(touch, motion.skeleton);
    if (why) refused.push({ touch, why });
    return !why;
  });
  const done: Touch[] = [];
  let left = sound;
  while (left.length > 0) {
    const ready = left.filter((touch) => !left.some((other) => other !== touch && goesBy(touch, other, motion)));
    if (ready.length === 0) {
      const [first, ...rest] = left;
      refused.push({ touch: first, why: 'it goes by a limb that goes by this one; the other is done first, and this one is left out.' });
      left = rest;
      continue;
    }
    done.push(...ready);
    left = left.filter((touch) => !ready.includes(touch));
  }
  return { done, refused };
}

function targetTrouble({ target, limb }: Touch, skeleton: Skeleton): string | null {
  if (target.to !== 'joint') return null;
  const joint = skeleton.joints.findIndex(({ name }) => name === target.joint);
  if (joint < 0) return `the joint “${target.joint}” that it shall touch is not there.`;
  const body = skeleton.body;
  const own = body && touchingLimb(skeleton, body, limb, null);
  return own && pathTo(skeleton, joint).includes(own.joints.hip) ? 'it cannot touch itself.' : null;
}

/** Whether a touch follows a limb that another touch moves at the same time. */
function goesBy({ target, from, to, fadeIn, fadeOut }: Touch, other: Touch, motion: Motion): boolean {
  if (target.to !== 'joint') return false;
  const body = bodyOf(motion);
  const limb = body && touchingLimb(motion.skeleton, body, other.limb, null);
  const joint = motion.skeleton.joints.findIndex(({ name }) => name === target.joint);
  const isAtOnce = from - fadeIn < other.to + other.fadeOut && other.from - other.fadeIn < to + fadeOut;
  return Boolean(limb && isAtOnce && joint >= 0 && pathTo(motion.skeleton, joint).includes(limb.joints.hip));
}
