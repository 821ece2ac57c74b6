import type { Globals } from './kinematics';
import { forwardKinematics } from './kinematics';
import { cutMotion, type Motion } from './motion';
import { jointWords } from './joint-words';
import { childrenOf, type Skeleton } from './skeleton';

export type Side = 'left' | 'right';

/** Joint indices of a leg; `toe` is −1 when the foot has no joint at the ball. */
export interface Leg {
  readonly hip: number;
  readonly knee: number;
  readonly ankle: number;
  readonly toe: number;
}

/** Joint indices of an arm; any may be −1. */
export interface Arm {
  readonly shoulder: number;
  readonly elbow: number;
  readonly wrist: number;
}

/** What the joints of a person-like skeleton are. Found from hierarchy and geometry; names only settle left and right. */
export interface Body {
  readonly hips: number;
  readonly chest: number;
  readonly head: number;
  readonly legs: Readonly<Record<Side, Leg>>;
  readonly arms: Readonly<Record<Side, Arm>>;
}

/** So much height is a metre aside worth when the head is looked for. */
const ASIDE = 0.7;

const NO_ARM: Arm = { shoulder: -1, elbow: -1, wrist: -1 };

/**
 * Finds the legs (the two branches that reach lowest), the head (the highest) and the arms (what leaves the trunk below it)
 * in the most upright of some sampled frames, so that joint names and the rest pose may be anything.
 *
 * @param motion Y up, any unit
 * @returns null when the skeleton does not look like a person: no two legs of two bones or more
 */
export function findBody(motion: Motion): Body | null {
  const { skeleton } = motion;
  const globals = uprightFrame(motion);
  const height = (j: number) => globals.positions[j * 3 + 1];
  const children = childrenOf(skeleton);
  const paths = skeleton.joints.map((_, j) => pathTo(skeleton, j));
  // Tails, hair and joints that steer others reach anywhere.
  const serves = skeleton.joints.map(({ name }) => jointWords(name).helper === 'other');
  const isOfBody = (j: number) => !paths[j].some((k) => serves[k]);
  const ends = (counts: (j: number) => boolean) => skeleton.joints.map((_, j) => j).filter((j) => counts(j) && !children[j].some(counts));
  const limbs = ends(isOfBody);
  const leaves = limbs.length > 2 ? limbs : ends(() => true);
  const low = Math.min(...leaves.map(height));
  const high = Math.max(...leaves.map(height));
  const sorted = [...leaves].sort((a, b) => height(a) - height(b));
  const first = sorted[0];
  const fork = (a: number, b: number) => {
    let at = 0;
    while (paths[a][at + 1] === paths[b][at + 1] && at + 1 < paths[a].length) at++;
    return paths[a][at];
  };
  const second = sorted.find((leaf) => leaf !== first && height(fork(first, leaf)) > low + 0.3 * (high - low));
  if (first === undefined || second === undefined || height(second) > low + 0.3 * (high - low)) return null;

  const hips = fork(first, second);
  const legA = legAlong(skeleton, paths[first], hips, height, high - low);
  const legB = legAlong(skeleton, paths[second], hips, height, high - low);
  if (!legA || !legB) return null;

  // The head is high over the hips; what a hand holds up may be higher, but aside.
  const aside = (j: number) =>
    Math.hypot(globals.positions[j * 3] - globals.positions[hips * 3], globals.positions[j * 3 + 2] - globals.positions[hips * 3 + 2]);
  const top = leaves.reduce((a, b) => (height(b) - ASIDE * aside(b) > height(a) - ASIDE * aside(a) ? b : a));
  const headPath = paths[top];
  const head = headJoint(skeleton, top);
  const armLeaves = leaves.filter((leaf) => {
    if (leaf === top) return false;
    const at = fork(leaf, top);
    const branch = paths[leaf].slice(paths[leaf].indexOf(at) + 1);
    // Where it leaves the trunk counts, not where the trunk's joint is: a single one for all of it lies low.
    return at !== head && branch.length > 2 && height(branch[0]) > height(hips) + 0.1 * (high - low);
  });
  const arms = twoArms(skeleton, paths, armLeaves, (leaf) => fork(leaf, top));
  const chest = arms ? fork(arms.leaves[0], top) : headPath[Math.max(0, headPath.length - 3)];

  const aIsLeft = firstIsLeft(skeleton, globals, legA, legB);
  const [armA, armB] = arms ? [arms.first, arms.second] : [NO_ARM, NO_ARM];
  const sideOf = (joint: number) => {
    const dot = (leg: Leg) => {
      const h = leg.hip * 3,
        o = hips * 3,
        p = joint * 3,
        g = globals.positions;
      return (g[h] - g[o]) * (g[p] - g[o]) + (g[h + 2] - g[o + 2]) * (g[p + 2] - g[o + 2]);
    };
    return dot(legA) - dot(legB);
  };
  const armAWithA = armA.shoulder < 0 || sideOf(armA.shoulder) >= (armB.shoulder < 0 ? 0 : sideOf(armB.shoulder));
  const armOfA = armAWithA ? armA : armB;
  const armOfB = armAWithA ? armB : armA;
  return {
    hips,
    chest,
    head,
    legs: aIsLeft ? { left: legA, right: legB } : { left: legB, right: legA },
    arms: aIsLeft ? { left: armOfA, right: armOfB } : { left: armOfB, right: armOfA },
  };
}

/** World transforms of the tallest of about forty frames. */
function uprightFrame(motion: Motion): Globals {
  let best: Globals | null = null;
  let bestExtent = -1;
  const step = Math.max(1, Math.floor(motion.frames / 40));
  for (let f = 0; f < motion.frames; f += step) {
    const globals = forwardKinematics(cutMotion(motion, f, f));
    let low = Infinity;
    let high = -Infinity;
    for (let i = 1; i < globals.positions.length; i += 3) {
      low = Math.min(low, globals.positions[i]);
      high = Math.max(high, globals.positions[i]);
    }
    if (high - low > bestExtent) {
      bestExtent = high - low;
      best = globals;
    }
  }
  return best ?? forwardKinematics(motion);
}

export function pathTo(skeleton: Skeleton, joint: number): number[] {
  const path: number[] = [];
  for (let j = joint; j >= 0; j = skeleton.joints[j].parent) path.unshift(j);
  return path;
}

const boneLength = (skeleton: Skeleton, j: number) => Math.hypot(...skeleton.joints[j].offset);

/** The two longest bones of a branch, one after the other, are thigh and shin; joints that take up twist are no ends of bones. */
function twoLongBones(skeleton: Skeleton, branch: readonly number[]): [number, number, number] | null {
  const chain = branch.filter((j) => jointWords(skeleton.joints[j].name).helper !== 'twist');
  if (chain.length < 3) return null;
  const along = (from: number, to: number) => {
    let length = 0;
    for (let i = branch.indexOf(to); branch[i] !== from; i--) length += boneLength(skeleton, branch[i]);
    return length;
  };
  let best: [number, number, number] | null = null;
  let bestLength = 0;
  for (let a = 0; a < chain.length - 2; a++) {
    const upper = along(chain[a], chain[a + 1]);
    const lower = along(chain[a + 1], chain[a + 2]);
    const length = upper + lower + Math.min(upper, lower);
    if (length > bestLength) {
      bestLength = length;
      best = [chain[a], chain[a + 1], chain[a + 2]];
    }
  }
  const [first, second, third] = best ?? chain;
  const ratio = along(first, second) / along(second, third);
  return ratio > UNLIKE || ratio < 1 / UNLIKE ? twoLikeBones(chain, along) : best;
}

/** Thigh and shin, upper arm and forearm are about as long as each other; where they seem not to be by this factor, one is made of two. */
const UNLIKE = 1.7;

/** Three joints of a chain, perhaps with others in between, that are as far apart as can be and about evenly. */
function twoLikeBones(chain: readonly number[], along: (from: number, to: number) => number): [number, number, number] | null {
  let best: [number, number, number] | null = null;
  let most = 0;
  for (let a = 0; a < chain.length - 2; a++) {
    for (let b = a + 1; b < chain.length - 1; b++) {
      for (let c = b + 1; c < chain.length; c++) {
        const [upper, lower] = [along(chain[a], chain[b]), along(chain[b], chain[c])];
        const even = 2 * Math.min(upper, lower) - Math.abs(upper - lower);
        if (even <= most) continue;
        most = even;
        best = [chain[a], chain[b], chain[c]];
      }
    }
  }
  return best;
}

function legAlong(skeleton: Skeleton, path: readonly number[], hips: number, height: (j: number) => number, extent: number): Leg | null {
  const chain = path.slice(path.indexOf(hips) + 1);
  const bones = twoLongBones(skeleton, chain);
  if (!bones) return null;
  const after = chain.slice(chain.indexOf(bones[2]) + 1);
  // A toe is a joint ahead of the ankle and near its level, not a tip at the same place.
  const toe = after.find((j) => boneLength(skeleton, j) > 0.02 * extent && Math.abs(height(j) - height(bones[2])) < 0.12 * extent);
  return { hip: bones[0], knee: bones[1], ankle: bones[2], toe: toe ?? -1 };
}

/** The head is the joint whose end site, or child without any further bone, is the top of the body. */
function headJoint(skeleton: Skeleton, top: number): number {
  const parent = skeleton.joints[top].parent;
  const isTip = skeleton.joints[top].endSites.every((tip) => Math.hypot(...tip) < 1e-6);
  return isTip && parent >= 0 && skeleton.joints[parent].parent >= 0 ? parent : top;
}

/** The two longest branches of the trunk that can be arms; one of them may be missing. */
function twoArms(
  skeleton: Skeleton,
  paths: readonly (readonly number[])[],
  leaves: readonly number[],
  forkOf: (leaf: number) => number,
): { first: Arm; second: Arm; leaves: [number, number] } | null {
  const branches = new Map<number, { leaf: number; arm: Arm; reach: number }>();
  for (const leaf of leaves) {
    const chain = paths[leaf].slice(paths[leaf].indexOf(forkOf(leaf)) + 1);
    const bones = twoLongBones(skeleton, chain);
    if (!bones) continue;
    const reach = chain.slice(1).reduce((sum, j) => sum + boneLength(skeleton, j), 0);
    const known = branches.get(chain[0]);
    if (!known || reach > known.reach) {
      branches.set(chain[0], { leaf, reach, arm: { shoulder: bones[0], elbow: bones[1], wrist: bones[2] } });
    }
  }
  const [a, b] = [...branches.values()].sort((x, y) => y.reach - x.reach);
  return a ? { first: a.arm, second: b?.arm ?? NO_ARM, leaves: [a.leaf, b?.leaf ?? a.leaf] } : null;
}

/** "LeftFoot", "foot_l", "L.Foot", "lFoot": a word for a side, or its letter set apart from the rest. */
function sideInName(name: string): Side | null {
  const words = name
    .replace(/^.*:/, '')
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z]+/);
  if (words.some((word) => word === 'l' || word.startsWith('left'))) return 'left';
  if (words.some((word) => word === 'r' || word.startsWith('right'))) return 'right';
  return null;
}

/** Names when they tell the two legs apart, else geometry. */
function firstIsLeft(skeleton: Skeleton, globals: Globals, a: Leg, b: Leg): boolean {
  const sides = [a, b].map((leg) => sideInName(skeleton.joints[leg.hip].name) ?? sideInName(skeleton.joints[leg.ankle].name));
  if (sides[0] && sides[1] && sides[0] !== sides[1]) return sides[0] === 'left';
  return firstStandsLeft(globals.positions, a, b) >= 0;
}

/**
 * Toes (or knees) point forward, and left is up × forward.
 *
 * @param positions of the joints in one pose, Y up
 * @returns the sine of the angle between forward and the line from leg `b` to leg `a`, seen from above: 1 when `a` is plainly the left one, −1 when `b` is
 */
export function firstStandsLeft(g: ArrayLike<number>, a: Leg, b: Leg): number {
  let fx = 0;
  let fz = 0;
  for (const leg of [a, b]) {
    const tip = leg.toe >= 0 ? leg.toe : leg.knee;
    const from = leg.toe >= 0 ? leg.ankle : leg.hip;
    const to = leg.ankle;
    const mid = leg.toe >= 0 ? 0 : 0.5;
    fx += g[tip * 3] - (g[from * 3] * (1 - mid) + g[to * 3] * mid);
    fz += g[tip * 3 + 2] - (g[from * 3 + 2] * (1 - mid) + g[to * 3 + 2] * mid);
  }
  const lx = g[a.hip * 3] - g[b.hip * 3];
  const lz = g[a.hip * 3 + 2] - g[b.hip * 3 + 2];
  // left = up × forward = (fz, 0, −fx)
  return (lx * fz - lz * fx) / (Math.hypot(lx, lz) * Math.hypot(fx, fz) || 1);
}
