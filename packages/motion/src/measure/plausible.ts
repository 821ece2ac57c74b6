import { DEGREES } from '../math/angles';
import { angleBetween } from '../math/quat';
import type { Clip } from '../model/clip';
import { bodyOf } from '../anatomy/body-of';
import { forwardKinematics } from '../model/kinematics';
import { cutMotion } from '../model/motion';
import { cadence, dutyFactor } from './cadence';
import { clipContacts } from './clip-slides';
import { legLength } from './leg-length';

/** What a gait looks like by its numbers, and what about them is not like people. */
export interface GaitNumbers {
  readonly speedMps: number;
  /** Steps a minute. */
  readonly cadence: number;
  readonly stepM: number;
  /** Step length over cadence, metres a step a minute: about 0.0063 in a walk at ease (Sekiya, Nagasaki 1998). */
  readonly walkRatio: number;
  /** v² over gravity and leg length: people go over into a run at about 0.5 (Alexander 1989). */
  readonly froude: number;
  readonly isRun: boolean;
  readonly warnings: readonly string[];
}

const GRAVITY = 9.81;

/**
 * The numbers of a clip's gait.
 *
 * @param speedMps as measured
 * @returns null for what does not step
 *
 * @example
 * const stroll = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'travel' }]) });
 * gaitNumbers(stroll, 1.25).cadence > 80; // true
 */
export function gaitNumbers(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>, speedMps: number): GaitNumbers | null {
  const body = bodyOf(clip.motion);
  const contacts = clipContacts(clip);
  const steps = cadence(clip, contacts);
  if (!body || !contacts || !steps || speedMps < 0.1) return null;
  const leg = legLength(forwardKinematics(cutMotion(clip.motion, 0, 0)), body);
  const isRun = dutyFactor(clip, contacts) < 0.5;
  const stepM = (speedMps * 60) / steps;
  const froude = speedMps ** 2 / (GRAVITY * leg);
  const warnings: string[] = [];
  if (!isRun && froude > 0.55) warnings.push('People run at this speed; as a walk it looks forced.');
  if (isRun && froude < 0.35) warnings.push('People walk at this speed; as a run it looks like running on the spot.');
  if (!isRun && stepM > 1.05 * leg) warnings.push('The steps are longer than a walk’s can be: let the cadence take a share.');
  if (!isRun && steps > 150) warnings.push('The feet go quicker than in any walk: let the strides take a share.');
  if (!isRun && steps < 65) warnings.push('The feet go slower than in any walk: let the strides take a share.');
  if (isRun && steps > 220) warnings.push('The feet go quicker than in any run: let the strides take a share.');
  return { speedMps, cadence: steps, stepM, walkRatio: stepM / steps, froude, isRun, warnings };
}

/**
 * The greatest change of a joint of the legs from one clip to another, at the same share of their time, degrees.
 *
 * @example
 * legChangeDeg(cutClip(motion, 0, 30), cutClip(motion, 0, 30)); // 0
 */
export function legChangeDeg(before: Pick<Clip, 'motion'>, after: Pick<Clip, 'motion'>): number {
  const body = bodyOf(before.motion);
  if (!body) return 0;
  const [a, b] = [before.motion, after.motion];
  const J = a.skeleton.joints.length;
  let most = 0;
  for (let f = 0; f < b.frames; f++) {
    const g = Math.round((f * (a.frames - 1)) / Math.max(1, b.frames - 1));
    for (const side of ['left', 'right'] as const) {
      const { hip, knee, ankle } = body.legs[side];
      for (const j of [hip, knee, ankle]) {
        most = Math.max(most, angleBetween(a.rotations, (g * J + j) * 4, b.rotations, (f * J + j) * 4));
      }
    }
  }
  return most * DEGREES;
}
