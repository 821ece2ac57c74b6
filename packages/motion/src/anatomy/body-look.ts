import { jointWords, type JointWords } from './joint-words';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { LimbChain } from './limb-choice';
import { mainJoints } from './main-joints';
import { cutMotion, type Motion } from '../model/motion';
import { childrenOf, type Skeleton } from '../model/skeleton';

/** Looked at: about so many frames of a take. */
const SAMPLES = 40;

/** What is looked at while a body is found. */
export interface Look {
  readonly skeleton: Skeleton;
  readonly words: readonly JointWords[];
  readonly children: readonly (readonly number[])[];
  readonly paths: readonly (readonly number[])[];
  /** The most upright of the sampled frames. */
  readonly upright: Globals;
  readonly low: number;
  readonly high: number;
  readonly height: (joint: number) => number;
  readonly apart: (i: number, j: number) => number;
}

/** World transforms of some frames, one by one. */
export function sampleFrames(motion: Motion): Globals[] {
  const step = Math.max(1, Math.floor(motion.frames / SAMPLES));
  const out: Globals[] = [];
  for (let f = 0; f < motion.frames; f += step) out.push(forwardKinematics(cutMotion(motion, f, f)));
  return out;
}

function extentOf({ positions }: Globals, joints: readonly number[]): [low: number, high: number] {
  let [low, high] = [Infinity, -Infinity];
  for (const j of joints) {
    low = Math.min(low, positions[j * 3 + 1]);
    high = Math.max(high, positions[j * 3 + 1]);
  }
  return [low, high];
}

export function tallest(sampled: readonly Globals[], joints: readonly number[]): Globals {
  const tall = (globals: Globals) => extentOf(globals, joints)[1] - extentOf(globals, joints)[0];
  return sampled.reduce((a, b) => (tall(b) > tall(a) ? b : a));
}

export function lookAt(skeleton: Skeleton, upright: Globals): Look {
  const p = upright.positions;
  const [low, high] = extentOf(upright, mainJoints(skeleton));
  return {
    skeleton,
    words: skeleton.joints.map(({ name }) => jointWords(name)),
    children: childrenOf(skeleton),
    paths: skeleton.joints.map((_, j) => pathTo(skeleton, j)),
    upright,
    low,
    high,
    height: (j) => p[j * 3 + 1],
    apart: (i, j) => Math.hypot(p[i * 3] - p[j * 3], p[i * 3 + 1] - p[j * 3 + 1], p[i * 3 + 2] - p[j * 3 + 2]),
  };
}

/** Joints from the first one down to one. */
export function pathTo(skeleton: Skeleton, joint: number): number[] {
  const path: number[] = [];
  for (let j = joint; j >= 0; j = skeleton.joints[j].parent) path.unshift(j);
  return path;
}

/** The last joints of what is of the body; tails, hair and joints that steer others reach anywhere. */
export function endsOf({ skeleton, words, children, paths }: Look): number[] {
  const isOfBody = (j: number) => !paths[j].some((k) => words[k].helper === 'other');
  const ends = (counts: (j: number) => boolean) => skeleton.joints.map((_, j) => j).filter((j) => counts(j) && !children[j].some(counts));
  const limbs = ends(isOfBody);
  return limbs.length > 2 ? limbs : ends(() => true);
}

/** The last joint that two ways have in common. */
export function forkOf({ paths }: Look, a: number, b: number): number {
  let at = 0;
  while (paths[a][at + 1] === paths[b][at + 1] && at + 1 < paths[a].length) at++;
  return paths[a][at];
}

/** A limb's joints from below a joint of the trunk to its end. */
export function chainOf({ skeleton, paths }: Look, leaf: number, from: number): LimbChain {
  const tips = skeleton.joints[leaf].endSites.map((tip) => Math.hypot(...tip));
  return { joints: paths[leaf].slice(paths[leaf].indexOf(from) + 1), tip: Math.max(0, ...tips) };
}
