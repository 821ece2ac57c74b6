import { capture, type ScriptName } from '@lantern/capture';
import {
  cutMotion,
  describeTake,
  fromAxisAngle,
  multiply,
  scaleSkeleton,
  type FreeFall,
  type Motion,
  type TakeOverrides,
} from '@lantern/motion';

/** A take whose scale and rate are known, read rightly or wrongly. */
interface Case {
  readonly what: string;
  readonly expected: FreeFall['verdict'][];
  readonly truth: { readonly fps: number; readonly metresPerUnit: number };
  readonly motion: Motion;
  readonly overrides: TakeOverrides;
}

const RATES = [24, 25, 30, 50, 60, 90, 100, 120, 240];
const UNITS = [1, 0.01, 0.0254, 0.001, 0.3048, 0.0254 / 0.45];

/** Mulberry32. */
function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

function inUnits(motion: Motion, metresPerUnit: number, fps: number): Motion {
  return {
    ...motion,
    fps,
    skeleton: scaleSkeleton(motion.skeleton, 1 / metresPerUnit),
    rootPositions: motion.rootPositions.map((v) => v / metresPerUnit),
  };
}

/** Somebody who stands is lifted, hangs, sits down or falls onto a mat: none of it is a flight that says anything. */
function noFlight(motion: Motion, kind: 'lift' | 'hang' | 'sit' | 'mat', next: () => number): Motion {
  const out = cutMotion(motion, 0, motion.frames - 1);
  const period = (2 + 2 * next()) * motion.fps;
  const height = 0.3 + 0.5 * next();
  const joints = out.skeleton.joints.length;
  for (let f = 0; f < out.frames; f++) {
    const t = (f % period) / period;
    const up = t > 0.2 && t < 0.8 ? (1 - Math.cos(((t - 0.2) / 0.6) * 2 * Math.PI)) / 2 : 0;
    const y = f * 3 + 1;
    if (kind === 'lift') out.rootPositions[y] += height * up;
    if (kind === 'hang') out.rootPositions[y] += f > out.frames * 0.2 ? height + 0.02 * Math.sin(f / motion.fps) : 0;
    if (kind === 'sit') out.rootPositions[y] -= 0.4 * up;
    // Up, and down in a real fall onto the back: the feet do not land, they lie as high as the hips.
    if (kind === 'mat' && t > 0.3) {
      const falling = Math.max(0, t - 0.5) * (period / motion.fps);
      const lift = t < 0.5 ? 0.4 * ((t - 0.3) / 0.2) : 0.4 - 4.905 * falling ** 2;
      out.rootPositions[y] = Math.max(0.25, out.rootPositions[y] + lift);
      const back = fromAxisAngle([1, 0, 0], -Math.min(1, falling / 0.4) * (Math.PI / 2));
      multiply(out.rotations, f * joints * 4, back, 0, out.rotations, f * joints * 4);
    }
  }
  return out;
}

function caseOf(seed: number): Case {
  const next = random(seed * 7919 + 13);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)];
  const fps = pick(RATES);
  const metresPerUnit = pick(UNITS);
  const stature = 1.55 + 0.4 * next();
  const kind = next();
  const isStill = kind < 0.12;
  // A jog's flights last a tenth of a second: below 50 frames a second there are not three frames in one, and only hops say anything.
  const script: ScriptName = isStill
    ? pick(['walk', 'idle', 'sideways', 'hush'] as const)
    : fps < 50
      ? 'hop'
      : pick(['jog', 'jog', 'hop', 'hop'] as const);
  const rootByFeet = !isStill && kind < 0.2;
  const seconds = 5 + 5 * next();
  const { motion } = capture(script, { seed, fps, seconds, stature, faults: next() < 0.8 ? 1 : 0, rootByFeet });
  const truth = { fps, metresPerUnit };
  if (isStill || (kind > 0.2 && kind < 0.28)) {
    const trick = kind < 0.06 ? null : pick(['lift', 'hang', 'sit', 'mat'] as const);
    const still = isStill ? motion : capture('idle', { seed, fps, seconds, stature }).motion;
    const base = trick ? noFlight(still, trick, next) : still;
    const read = next() < 0.5 ? fps : pick(RATES);
    return { what: trick ?? script, expected: ['no-flights', 'unclear'], truth, motion: inUnits(base, metresPerUnit, read), overrides: {} };
  }
  if (rootByFeet) {
    return {
      what: `${script} by feet`,
      expected: ['no-flights', 'unclear'],
      truth,
      motion: inUnits(motion, metresPerUnit, fps),
      overrides: {},
    };
  }
  const choice = next();
  const readFps = choice < 0.45 ? pick(RATES) : fps;
  const wrongUnit = choice > 0.75 ? pick(UNITS) : metresPerUnit;
  const isRate = Math.abs(Math.log(readFps / fps)) > 0.045;
  const isScale = wrongUnit !== metresPerUnit;
  return {
    what: script,
    expected: isScale ? ['scale'] : isRate ? ['rate'] : ['consistent'],
    truth,
    motion: inUnits(motion, metresPerUnit, readFps),
    overrides: isScale ? { metresPerUnit: wrongUnit } : {},
  };
}

export interface FreeFallScore {
  readonly takes: number;
  readonly right: number;
  /** `consistent`, `rate` or `scale` when that is not so. */
  readonly confidentlyWrong: number;
  readonly misses: readonly string[];
}

/** Reads seeded takes of the simulated suit with random units and rates, right and wrong, and counts right verdicts. */
export function scoreFreeFall(takes: number, firstSeed = 1): FreeFallScore {
  let right = 0;
  let confidentlyWrong = 0;
  const misses: string[] = [];
  for (let seed = firstSeed; seed < firstSeed + takes; seed++) {
    const { what, expected, truth, motion, overrides } = caseOf(seed);
    const { freeFall } = describeTake({ name: what, format: 'bvh', motion, warnings: [] }, overrides).passport;
    const { fps, metresPerUnit } = freeFall.suggestion ?? {};
    const isRight =
      expected.includes(freeFall.verdict) &&
      (fps === undefined || Math.abs(Math.log(fps / truth.fps)) < 0.05) &&
      (metresPerUnit === undefined || Math.abs(Math.log(metresPerUnit / truth.metresPerUnit)) < 0.05);
    if (isRight) right++;
    else {
      if (!['unclear', 'no-flights'].includes(freeFall.verdict)) confidentlyWrong++;
      misses.push(
        `seed ${seed} ${what} ${truth.fps}/s read as ${motion.fps}: ${freeFall.verdict} for ${expected.join(' or ')} – ${freeFall.sentence}`,
      );
    }
  }
  return { takes, right, confidentlyWrong, misses };
}
