import type { JointWords } from './joint-words';
import type { Skeleton } from '../model/skeleton';

/** Which limb: of arms and legs the bones, what they hang on and what they end in have other lengths. */
export type LimbKind = 'arm' | 'leg';

/** Where a limb's two bones begin and end: hip, knee, ankle, or shoulder, elbow, wrist. */
export type LimbJoints = readonly [first: number, second: number, third: number];

/** A pair of limbs, how well it explains what is seen, and the next best that is somewhere else. */
export interface LimbChoice {
  readonly a: LimbJoints;
  readonly b: LimbJoints;
  /** 0.5 is a toss-up, 1 is certain. */
  readonly sure: number;
  readonly other: { readonly a: LimbJoints; readonly b: LimbJoints } | null;
}

/** A limb's joints from where it leaves the trunk to its furthest end. */
export interface LimbChain {
  readonly joints: readonly number[];
  /** Length beyond the last joint: its end site. */
  readonly tip: number;
}

/** What people's limbs are like, lengths as shares of the stature (Winter, 2009), and how far real and drawn people are from it. */
const LIKE = {
  arm: { ratio: 1.2, length: 0.33, width: 0.13, most: 1.1, parts: ['UpperArm', 'Forearm', 'Hand'] },
  leg: { ratio: 1.02, length: 0.49, width: 0.06, most: 0.85, parts: ['Thigh', 'Shin', 'Foot'] },
} as const;
const RATIO_SPREAD = 0.35;
const LENGTH_SPREAD = 0.4;
/** How far the bones of one side are from those of the other, and what that counts at the most. */
const SIDE_SPREAD = 0.12;
const MOST_UNLIKE = 4;
/** What a name that says so is worth, and one that says another part of the limb. */
const NAMED = 2;
const NAMED_OTHERWISE = -1.5;
/** A foot lies across the shin by at least this, radians. */
const FOOT_ANGLE = (35 * Math.PI) / 180;
/** Joints nearer to each other than this share of the stature are in one place. */
const SAME_PLACE = 0.004;

/** A limb ends within so many joints of a chain, twist and fingers included: what goes on from there, such as a rope, is no limb. */
const MOST_JOINTS = 32;
/** Cuts of a chain that are held against those of another. */
const MOST_CUTS = 250;

interface Scored {
  readonly joints: LimbJoints;
  /** Places along the chain. */
  readonly at: readonly [number, number, number];
  readonly score: number;
  /** Lengths of its two bones. */
  readonly upper: number;
  readonly lower: number;
}

/** The skeleton and the pose in which its limbs are looked at. */
export interface LimbView {
  readonly skeleton: Skeleton;
  readonly words: readonly JointWords[];
  readonly children: readonly (readonly number[])[];
  /** Distance of two joints. */
  readonly apart: (i: number, j: number) => number;
}

/**
 * Chooses, of two chains that hang on the trunk, the joints at which a pair of limbs begins, bends and ends. Lengths, what is left over for hand
 * or foot, how far apart the two begin, symmetry and names weigh together: none of them alone is believed. Of joints in one place the lowest
 * counts, because it turns as the bone below it does.
 *
 * @param stature in the same units
 * @returns null when a chain has no two bones
 */
export function chooseLimbs(kind: LimbKind, view: LimbView, [a, b]: readonly [LimbChain, LimbChain], stature: number): LimbChoice | null {
  const { apart } = view;
  const [left, right] = [a, b].map((chain) => choices(kind, view, chain, stature));
  if (left.length === 0 || right.length === 0) return null;
  // Chains built alike are cut alike; of others the likeliest cuts of the one are held against those of the other.
  const isAlike = a.joints.length === b.joints.length;
  const sameCut = new Map(right.map((q) => [q.at.join(), q]));
  const likeliest = (all: readonly Scored[]) => [...all].sort((p, q) => q.score - p.score).slice(0, MOST_CUTS);
  const [ofLeft, ofRight] = isAlike ? [left, right] : [likeliest(left), likeliest(right)];
  const pairs: { a: Scored; b: Scored; score: number }[] = [];
  for (const p of ofLeft) {
    const same = sameCut.get(p.at.join());
    for (const q of isAlike ? (same ? [same] : []) : ofRight) {
      const width = apart(p.joints[0], q.joints[0]) / stature;
      const { width: least } = LIKE[kind];
      const score = p.score + q.score - 4 * Math.max(0, 1 - width / least) - unlikeness(p, q);
      pairs.push({ a: p, b: q, score });
    }
  }
  pairs.sort((p, q) => q.score - p.score);
  const [best] = pairs;
  const isElsewhere = ({ a: p, b: q }: (typeof pairs)[number]) =>
    [p, q].some(({ joints }, side) => joints.some((j, i) => apart(j, (side ? best.b : best.a).joints[i]) > SAME_PLACE * stature));
  const second = pairs.find(isElsewhere);
  return {
    a: best.a.joints,
    b: best.b.joints,
    sure: second ? 1 / (1 + Math.exp((second.score - best.score) / 2)) : 1,
    other: second ? { a: second.a.joints, b: second.b.joints } : null,
  };
}

/** The two limbs of a body are as long as each other; what one of them holds, or lacks, makes its chain another. */
function unlikeness(p: Scored, q: Scored): number {
  const apart = (a: number, b: number) => (Math.log(a / b) / SIDE_SPREAD) ** 2 / 2;
  return Math.min(MOST_UNLIKE, apart(p.upper, q.upper) + apart(p.lower, q.lower));
}

/** The same for a limb that has no partner. */
export function chooseLimb(kind: LimbKind, view: LimbView, chain: LimbChain, stature: number): LimbJoints | null {
  const all = choices(kind, view, chain, stature);
  return all.length > 0 ? all.reduce((p, q) => (q.score > p.score ? q : p)).joints : null;
}

function choices(kind: LimbKind, view: LimbView, { joints: chain, tip }: LimbChain, stature: number): Scored[] {
  const { skeleton, children } = view;
  const joints = chain.slice(0, MOST_JOINTS);
  const { ratio, length, most, parts } = LIKE[kind];
  const words = joints.map((j) => view.words[j]);
  const along = [0];
  for (let i = 1; i < joints.length; i++) along.push(along[i - 1] + Math.hypot(...skeleton.joints[joints[i]].offset));
  const beyond = chain.slice(MOST_JOINTS).reduce((sum, j) => sum + Math.hypot(...skeleton.joints[j].offset), 0);
  const end = along[along.length - 1] + beyond + tip;
  const named = (at: number, part: (typeof parts)[number]) => {
    const said = words[at].part;
    if (said === part) return NAMED;
    return said !== null && (parts as readonly string[]).includes(said) ? NAMED_OTHERWISE : 0;
  };
  // Joints that take up twist are no ends of bones, and neither is one with another below it in the same place.
  const placed = (at: number) => {
    const isOver = at + 1 < joints.length && along[at + 1] - along[at] < SAME_PLACE * stature && words[at + 1].helper === null;
    return (words[at].helper === null ? 0 : -6) - (isOver ? 1.5 : 0);
  };
  // A hand forks into fingers; a foot goes on at an angle from the shin.
  const forks = (at: number) => children[joints[at]].filter((child) => view.words[child].helper === null).length > 1;
  const bends = (from: number, at: number) => {
    if (at + 1 >= joints.length) return 0;
    const [p, q, r] = [joints[from], joints[at], joints[at + 1]];
    const [u, v, w] = [view.apart(p, q), view.apart(q, r), view.apart(p, r)];
    return v < SAME_PLACE * stature ? 0 : Math.acos(Math.max(-1, Math.min(1, (w * w - u * u - v * v) / (2 * u * v))));
  };
  const between = (k: number, m: number) => Array.from({ length: m - k - 1 }, (_, i) => k + 1 + i);
  const ends = (k: number, m: number) => {
    if (kind === 'arm') return (forks(m) ? 1.5 : 0) - (between(k, m).some(forks) ? 1.5 : 0);
    return (bends(k, m) > FOOT_ANGLE ? 1.5 : 0) - (between(k, m).some((at) => bends(k, at) > FOOT_ANGLE) ? 1.5 : 0);
  };
  const out: Scored[] = [];
  for (let i = 0; i < joints.length - 2; i++) {
    for (let k = i + 1; k < joints.length - 1; k++) {
      for (let m = k + 1; m < joints.length; m++) {
        const [upper, lower] = [along[k] - along[i], along[m] - along[k]];
        if (Math.min(upper, lower) < SAME_PLACE * stature) continue;
        const left = (end - along[m]) / lower;
        const score =
          -((Math.log(upper / lower / ratio) / RATIO_SPREAD) ** 2) / 2 -
          (Math.log((upper + lower) / (length * stature)) / LENGTH_SPREAD) ** 2 / 2 -
          4 * Math.min(1, Math.max(0, left - most)) +
          named(i, parts[0]) +
          named(k, parts[1]) +
          named(m, parts[2]) +
          placed(i) +
          placed(k) +
          placed(m) +
          ends(k, m);
        out.push({ joints: [joints[i], joints[k], joints[m]], at: [i, k, m], score, upper, lower });
      }
    }
  }
  return out;
}
