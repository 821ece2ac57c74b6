import { addFaults, capture, DEFAULT_FAULTS, SCRIPTS, type ScriptName } from '@lantern/capture';
import {
  copyMotion,
  cutClip,
  cleanFindings,
  forwardKinematics,
  fromAxisAngle,
  multiply,
  recipeRunner,
  stepSchema,
  type Motion,
  type StepOfKind,
} from '@lantern/motion';

/** What cleaning comes to on one script, against the truth. */
export interface CleanFigures {
  readonly script: ScriptName;
  readonly factor: number;
  /** Error of the joints' places, as captured and cleaned, root of the mean square, millimetres. */
  readonly beforeMm: number;
  readonly afterMm: number;
  /** Peak acceleration of ankles at landings, cleaned to true: the least and the middle; null where nobody lands. */
  readonly edgeLeast: number | null;
  readonly edgeMedian: number | null;
  /** Of spikes that were put in, found; and found where none is, a minute. */
  readonly spikesFound: number;
  readonly spikesFalse: number;
  /** A quarter of a second of one joint filled in: how far any joint is off at the most, centimetres, in the middle and in nine of ten. */
  readonly gapMedianCm: number;
  readonly gapNinthCm: number;
}

const step = (params: object) => stepSchema.parse({ kind: 'clean', ...params }) as StepOfKind<'clean'>;
const cleaned = (motion: Motion, params: object) => recipeRunner(motion)({ from: 0, to: motion.frames - 1, steps: [step(params)] }).motion;

function dice(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
}

/** Cleaning of a script, on a seed that nothing was tuned on. */
export function cleanFigures(script: ScriptName, factor: number, seed = 990, seconds = 15): CleanFigures {
  const { truth } = capture(script, { seconds, seed, faults: 1 });
  const { motion: clean } = truth;
  const noisy = addFaults(clean, seed + 1, factor, { ...DEFAULT_FAULTS, headingDrift: 0, floor: 0 });
  const out = cleaned(noisy, {});
  const edges = (['left', 'right'] as const)
    .flatMap((side) => truth[side].map(({ from }) => edgeRatio(clean, out, side === 'left' ? 'LeftFoot' : 'RightFoot', from)))
    .filter((ratio) => ratio !== null)
    .sort((a, b) => a - b);
  const gaps = gapErrors(noisy, dice(seed + 2));
  return {
    script,
    factor,
    beforeMm: rmsMm(noisy, clean),
    afterMm: rmsMm(out, clean),
    edgeLeast: edges[0] ?? null,
    edgeMedian: edges[edges.length >> 1] ?? null,
    ...spikeScore(noisy, dice(seed + 3)),
    gapMedianCm: gaps[gaps.length >> 1],
    gapNinthCm: gaps[Math.floor(0.9 * gaps.length)],
  };
}

/** All scripts at the usual faults and at three times. */
export const cleanTable = (): CleanFigures[] => [1, 3].flatMap((factor) => SCRIPTS.map((script) => cleanFigures(script, factor)));

function rmsMm(a: Motion, b: Motion): number {
  const [p, q] = [a, b].map((motion) => forwardKinematics(motion).positions);
  return 1000 * Math.sqrt((3 * p.reduce((sum, v, i) => sum + (v - q[i]) ** 2, 0)) / p.length);
}

function edgeRatio(truth: Motion, out: Motion, name: string, landing: number): number | null {
  if (landing < 8 || landing > truth.frames - 8) return null;
  const j = truth.skeleton.joints.findIndex((joint) => joint.name === name);
  const peak = (motion: Motion) => {
    const { positions, joints } = forwardKinematics(motion);
    const at = (f: number, k: number) => positions[(f * joints + j) * 3 + k];
    const of = (f: number) => Math.hypot(...[0, 1, 2].map((k) => at(f + 1, k) - 2 * at(f, k) + at(f - 1, k)));
    return Math.max(...Array.from({ length: 11 }, (_, i) => of(landing - 5 + i)));
  };
  return peak(out) / peak(truth);
}

function spikeScore(motion: Motion, next: () => number): Pick<CleanFigures, 'spikesFound' | 'spikesFalse'> {
  const J = motion.skeleton.joints.length;
  const list = (m: Motion) => cleanFindings(cutClip(m, 0, m.frames - 1), step({})).filter(({ kind }) => kind === 'spike');
  const bad = copyMotion(motion);
  const put: { joint: string; from: number; to: number }[] = [];
  for (let n = 0; n < 30; n++) {
    const j = Math.floor(next() * J);
    const from = 10 + Math.floor(next() * (motion.frames - 20));
    const to = from + 1 + Math.floor(next() * 3);
    const joint = motion.skeleton.joints[j].name;
    if (put.some((own) => own.joint === joint && Math.abs(own.from - from) < 12)) continue;
    const turn = fromAxisAngle([0.6 * (next() < 0.5 ? -1 : 1), 0.8, 0], ((6 + 50 * next()) * Math.PI) / 180);
    for (let f = from; f < to; f++) multiply(bad.rotations, (f * J + j) * 4, bad.rotations, (f * J + j) * 4, turn, 0);
    put.push({ joint, from, to });
  }
  const found = list(bad);
  const hit = put.filter(({ joint, from, to }) => found.some((own) => own.joint === joint && own.from < to && own.to > from));
  return { spikesFound: hit.length / put.length, spikesFalse: list(motion).length / (motion.frames / motion.fps / 60) };
}

function gapErrors(motion: Motion, next: () => number): number[] {
  const J = motion.skeleton.joints.length;
  const length = Math.round(0.25 * motion.fps);
  const whole = forwardKinematics(motion).positions;
  return Array.from({ length: 12 }, () => {
    const j = 1 + Math.floor(next() * (J - 1));
    const from = 20 + Math.floor(next() * (motion.frames - 60));
    const bad = copyMotion(motion);
    const last = ((from - 1) * J + j) * 4;
    for (let f = from; f < from + length; f++) bad.rotations.set(motion.rotations.subarray(last, last + 4), (f * J + j) * 4);
    const filled = forwardKinematics(cleaned(bad, { jitter: 0, spikes: false })).positions;
    let most = 0;
    for (let i = from * J * 3; i < (from + length) * J * 3; i += 3)
      most = Math.max(most, Math.hypot(whole[i] - filled[i], whole[i + 1] - filled[i + 1], whole[i + 2] - filled[i + 2]));
    return 100 * most;
  }).sort((a, b) => a - b);
}
