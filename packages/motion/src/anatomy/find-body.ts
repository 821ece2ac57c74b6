import { settleSides, type Pair } from './body-sides';
import type { Arm, Body, BodyDoubt, Leg } from '../model/body';
import { chainOf, endsOf, forkOf, lookAt, sampleFrames, tallest, type Look } from './body-look';
import { isFourLegged } from './four-legged';
import { chooseLimb, chooseLimbs, type LimbChain, type LimbChoice, type LimbJoints } from './limb-choice';
import { mainJoints } from './main-joints';
import type { Motion } from '../model/motion';

/** So much height is a metre aside worth when the head is looked for. */
const ASIDE = 0.7;
/** What is less sure than this is asked. */
export const SURE = 0.7;
/** An arm is at least this share of the stature long. */
const LEAST_ARM = 0.16;
const NO_ARM: Arm = { shoulder: -1, elbow: -1, wrist: -1 };

/**
 * Finds the legs, the arms, the head and the trunk of a person in a skeleton: hierarchy, symmetry, lengths, the pose of the most upright of some
 * sampled frames and names weigh together; left and right are told by names, else by where toes and knees point over the take. Names, rest pose,
 * axes and the count of joints may be anything.
 *
 * @param motion Y up, any unit
 * @returns null when the skeleton does not look like a person: no two legs of two bones, or four of them
 *
 * @example
 * findBody(motion) !== null; // true
 */
export function findBody(motion: Motion): Body | null {
  const { skeleton } = motion;
  const sampled = sampleFrames(motion);
  const look = lookAt(skeleton, tallest(sampled, mainJoints(skeleton)));
  const leaves = endsOf(look);
  const legs = findLegs(look, leaves);
  if (!legs || isFourLegged(look, leaves, legs)) return null;
  const top = topOf(look, leaves, legs.hips);
  const arms = findArms(look, leaves, legs.hips, top, legs.leaves);
  const head = headOf(look, top, arms ? arms.chest : legs.hips);
  const headPath = look.paths[head];
  const chest = arms?.chest ?? headPath[Math.max(0, headPath.length - 3)];
  const sides = settleSides(skeleton, sampled, legs, arms);
  const bySide = <T>({ a, b }: Pair<T>, aIsLeft: boolean) => (aIsLeft ? { left: a, right: b } : { left: b, right: a });
  const body = {
    hips: legs.hips,
    chest,
    head,
    legs: bySide(legs, sides.aIsLeft),
    arms: bySide(arms ?? { a: NO_ARM, b: NO_ARM }, sides.armOfLeft === 'a'),
  };
  const swapped = { legs: { left: body.legs.right, right: body.legs.left }, arms: { left: body.arms.right, right: body.arms.left } };
  return {
    ...body,
    doubts: [
      ...doubtsOf(look, legs, arms, (part, { a, b }) =>
        part === 'legs'
          ? { legs: bySide({ a: { ...legs.a, ...legOf(a) }, b: { ...legs.b, ...legOf(b) } }, sides.aIsLeft) }
          : { arms: bySide({ a: armOf(a), b: armOf(b) }, sides.armOfLeft === 'a') },
      ),
      ...sides.doubts.map(({ swaps, ...doubt }) => ({
        ...doubt,
        other: { label: 'swap left and right', body: swaps === 'all' ? swapped : { arms: swapped.arms } },
      })),
    ],
  };
}

const legOf = ([hip, knee, ankle]: LimbJoints) => ({ hip, knee, ankle });
const armOf = ([shoulder, elbow, wrist]: LimbJoints): Arm => ({ shoulder, elbow, wrist });

interface FoundLegs extends Pair<Leg>, Pick<LimbChoice, 'sure' | 'other'> {
  readonly hips: number;
  readonly leaves: readonly [number, number];
}

function findLegs(look: Look, leaves: readonly number[]): FoundLegs | null {
  const { skeleton, low, high, height } = look;
  const ends = namedLegs(look, leaves) ?? lowestTwo(look, leaves);
  if (!ends) return null;
  const hips = forkOf(look, ends[0], ends[1]);
  const chains = [chainOf(look, ends[0], hips), chainOf(look, ends[1], hips)] as const;
  const chosen = chooseLimbs('leg', look, chains, high - low);
  if (!chosen) return null;
  const withToe = ([hip, knee, ankle]: LimbJoints, { joints }: LimbChain): Leg => {
    const after = joints.slice(joints.indexOf(ankle) + 1);
    // A toe is a joint ahead of the ankle and near its level, not a tip at the same place.
    const toe = after.find(
      (j) => Math.hypot(...skeleton.joints[j].offset) > 0.02 * (high - low) && Math.abs(height(j) - height(ankle)) < 0.12 * (high - low),
    );
    return { hip, knee, ankle, toe: toe ?? -1 };
  };
  return { hips, a: withToe(chosen.a, chains[0]), b: withToe(chosen.b, chains[1]), leaves: ends, sure: chosen.sure, other: chosen.other };
}

const LEG_PARTS: readonly string[] = ['Thigh', 'Shin', 'Foot', 'Toes'];

/** The ends of the two legs when names tell them, however the body lies: for each side the one with most joints called so. */
function namedLegs({ words, paths }: Look, leaves: readonly number[]): [number, number] | null {
  const best = (side: 'left' | 'right') => {
    const count = (leaf: number) =>
      paths[leaf].filter((j) => words[j].side === side && words[j].helper === null && LEG_PARTS.includes(words[j].part ?? '')).length;
    const found = leaves.reduce((a, b) => (count(b) > count(a) ? b : a));
    return count(found) >= 3 ? found : null;
  };
  const [left, right] = [best('left'), best('right')];
  return left === null || right === null ? null : [left, right];
}

/** The two branches that reach lowest in the most upright frame. */
function lowestTwo(look: Look, leaves: readonly number[]): [number, number] | null {
  const { low, high, height } = look;
  const reach = low + 0.3 * (high - low);
  const lowest = leaves.filter((leaf) => height(leaf) <= reach).sort((a, b) => height(a) - height(b));
  for (const first of lowest) {
    // What lies on the floor itself hangs on nothing above it.
    const second = lowest.find((leaf) => leaf !== first && height(forkOf(look, first, leaf)) > reach);
    if (second !== undefined) return [first, second];
  }
  return null;
}

/** The end of what is high over the hips; what a hand holds up may be higher, but aside. A joint called head knows better. */
function topOf(look: Look, leaves: readonly number[], hips: number): number {
  const { upright, words, paths, height } = look;
  const p = upright.positions;
  const aside = (j: number) => Math.hypot(p[j * 3] - p[hips * 3], p[j * 3 + 2] - p[hips * 3 + 2]);
  const rank = (j: number) => height(j) - ASIDE * aside(j);
  const called = leaves.filter((leaf) => paths[leaf].some((j) => words[j].part === 'head' && words[j].helper === null));
  return (called.length > 0 ? called : leaves).reduce((a, b) => (rank(b) > rank(a) ? b : a));
}

interface FoundArms extends Pair<Arm>, Pick<LimbChoice, 'sure' | 'other'> {
  readonly chest: number;
}

/** The two branches of the trunk that reach furthest and most alike; one of them may be missing. */
function findArms(look: Look, leaves: readonly number[], hips: number, top: number, legs: readonly number[]): FoundArms | null {
  const { skeleton, paths, height, low, high } = look;
  const stature = high - low;
  const branches = new Map<number, { leaf: number; fork: number; chain: LimbChain; reach: number; called: number }>();
  for (const leaf of leaves) {
    if (leaf === top || legs.includes(leaf)) continue;
    const fork = forkOf(look, leaf, top);
    const chain = chainOf(look, leaf, fork);
    // What leaves the trunk over the hips is an arm however somebody bends; where the trunk has a single joint, what begins high.
    const isOver = fork !== hips && paths[fork].includes(hips);
    if (chain.joints.length < 3 || (!isOver && height(chain.joints[0]) < height(hips) + 0.1 * stature)) continue;
    const reach = chain.joints.slice(1).reduce((sum, j) => sum + Math.hypot(...skeleton.joints[j].offset), chain.tip);
    if (reach < LEAST_ARM * stature) continue;
    const called = paths[leaf].filter((j) => ['UpperArm', 'Forearm', 'Hand'].includes(look.words[j].part ?? '')).length;
    const known = branches.get(chain.joints[0]);
    if (!known || reach > known.reach) branches.set(chain.joints[0], { leaf, fork, chain, reach, called: Math.min(3, called) });
  }
  const rank = ({ reach, called }: { reach: number; called: number }) => reach / stature + 0.3 * called;
  const [a, b] = [...branches.values()].sort((x, y) => rank(y) - rank(x));
  if (!a) return null;
  const alone = b ? null : chooseLimb('arm', look, a.chain, stature);
  if (!b) return { chest: a.fork, a: alone ? armOf(alone) : NO_ARM, b: NO_ARM, sure: 1, other: null };
  const chosen = chooseLimbs('arm', look, [a.chain, b.chain], stature);
  return chosen && { chest: a.fork, a: armOf(chosen.a), b: armOf(chosen.b), sure: chosen.sure, other: chosen.other };
}

/** The joint on the way to the top that is called so, that the face forks from, or whose end is the top of the body. */
function headOf({ skeleton, words, children, paths }: Look, top: number, chest: number): number {
  const above = paths[top].slice(paths[top].indexOf(chest) + 1);
  const called = above.find((j) => words[j].part === 'head' && words[j].helper === null);
  if (called !== undefined) return called;
  const forks = above.find((j) => children[j].filter((child) => words[child].helper === null).length > 1);
  if (forks !== undefined) return forks;
  const { parent, endSites } = skeleton.joints[top];
  const isTip = endSites.every((tip) => Math.hypot(...tip) < 1e-6);
  return isTip && above.length > 1 ? parent : top;
}

function doubtsOf(
  { skeleton }: Look,
  legs: FoundLegs,
  arms: FoundArms | null,
  otherBody: (part: 'arms' | 'legs', other: Pair<LimbJoints>) => BodyDoubt['other']['body'],
): BodyDoubt[] {
  const out: BodyDoubt[] = [];
  const name = (j: number) => `“${skeleton.joints[j].name}”`;
  const doubt = (part: 'arms' | 'legs', found: Pair<LimbJoints>, { sure, other }: Pick<LimbChoice, 'sure' | 'other'>) => {
    if (sure >= SURE || !other) return;
    const k = found.a.findIndex((joint, i) => joint !== other.a[i] || found.b[i] !== other.b[i]);
    const sentence =
      `It is ${Math.round(sure * 100)} % sure that the ${part} ${['begin', 'bend', 'end'][k]} at ${name(found.a[k])} and ${name(found.b[k])}; ` +
      `it could be ${name(other.a[k])} and ${name(other.b[k])}.`;
    const label = `take ${name(other.a[k])} and ${name(other.b[k])}`;
    out.push({ part, sure, sentence, other: { label, body: otherBody(part, other) } });
  };
  doubt('legs', { a: [legs.a.hip, legs.a.knee, legs.a.ankle], b: [legs.b.hip, legs.b.knee, legs.b.ankle] }, legs);
  if (arms && arms.b !== NO_ARM)
    doubt('arms', { a: [arms.a.shoulder, arms.a.elbow, arms.a.wrist], b: [arms.b.shoulder, arms.b.elbow, arms.b.wrist] }, arms);
  return out;
}
