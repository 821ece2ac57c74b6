import type { Body, Side } from '../model/body';

const TRUNK = ['hips', 'spine', 'neck', 'head'] as const;
const LIMB = [
  'Collar',
  'UpperArm',
  'Forearm',
  'Hand',
  'Thigh',
  'Shin',
  'Foot',
  'Toes',
  'Thumb',
  'Index',
  'Middle',
  'Ring',
  'Little',
] as const;

export type LimbPart = (typeof LIMB)[number];
/** A part of the body that joints are mapped by. */
export type Part = (typeof TRUNK)[number] | `${Side}${LimbPart}`;

export const FINGERS = ['Thumb', 'Index', 'Middle', 'Ring', 'Little'] as const satisfies readonly LimbPart[];

/** From the hips outwards, left before right. */
export const PARTS: readonly Part[] = [...TRUNK, ...LIMB.flatMap((part): Part[] => [`left${part}`, `right${part}`])];

export const partOf = (side: Side, part: LimbPart): Part => `${side}${part}`;

/**
 * The part on the other side; parts in the middle are their own.
 *
 * @example
 * otherPart('leftHand'); // 'rightHand'
 */
export const otherPart = (part: Part): Part => {
  const found = /^(left|right)(.+)$/.exec(part);
  return found ? (((found[1] === 'left' ? 'right' : 'left') + found[2]) as Part) : part;
};

/**
 * In words: "left forearm".
 *
 * @example
 * partName('leftUpperArm'); // 'left upper arm'
 */
export const partName = (part: Part): string => part.replace(/([A-Z])/g, ' $1').toLowerCase();

/** A part's joints from the hips outwards, how sure that is, and what it rests on. */
export interface FoundPart {
  readonly joints: readonly number[];
  /** 0 to 1. */
  readonly confidence: number;
  readonly reason: string;
}

/** A joint that no part of the body has, and why. */
export interface LeftOut {
  readonly joint: number;
  readonly reason: string;
}

/** What the joints of a skeleton are. */
export interface Parts {
  readonly parts: Readonly<Partial<Record<Part, FoundPart>>>;
  readonly leftOut: readonly LeftOut[];
  /** The names of left and right contradict where feet and knees point. */
  readonly sidesSwapped: boolean;
}

/** The joint that a part begins with, or −1. */
export const firstOf = (parts: Parts['parts'], part: Part): number => parts[part]?.joints[0] ?? -1;

/**
 * The parts as the rest of the core knows a body; null without two legs.
 *
 * @example
 * bodyOfParts(plan.targetParts.parts) !== null; // true
 */
export function bodyOfParts(parts: Parts['parts']): Body | null {
  const hips = parts.hips?.joints.at(-1) ?? -1;
  const leg = (side: Side) => ({
    hip: firstOf(parts, `${side}Thigh`),
    knee: firstOf(parts, `${side}Shin`),
    ankle: firstOf(parts, `${side}Foot`),
    toe: firstOf(parts, `${side}Toes`),
  });
  const arm = (side: Side) => ({
    shoulder: firstOf(parts, `${side}UpperArm`),
    elbow: firstOf(parts, `${side}Forearm`),
    wrist: firstOf(parts, `${side}Hand`),
  });
  const legs = { left: leg('left'), right: leg('right') };
  if (hips < 0 || [legs.left, legs.right].some(({ hip, knee, ankle }) => hip < 0 || knee < 0 || ankle < 0)) return null;
  return {
    hips,
    chest: parts.spine?.joints.at(-1) ?? hips,
    head: parts.head?.joints[0] ?? parts.neck?.joints.at(-1) ?? hips,
    legs,
    arms: { left: arm('left'), right: arm('right') },
    doubts: [],
  };
}
