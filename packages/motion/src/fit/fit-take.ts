import { slerp } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { alignSigns, createMotion, cutMotion, type Motion } from '../model/motion';
import type { Character } from '../character/character';
import { fitMotion } from './fit-motion';
import { fitReport, worstOf, type FitReport } from './fit-report';
import { fitPlan, type FitPlan } from './plan';
import type { FitSettings } from './settings';

/** Frames times joints of a stretch that is fitted at a time. */
const MOST_SAMPLES = 1_000_000;
/** Stretches overlap by so much, and the one is led into the other over half of it, seconds. */
const OVERLAP = 4;

/** A whole take on a character, and what came of it. */
export interface FittedTake {
  readonly motion: Motion;
  readonly report: FitReport;
  readonly plan: FitPlan;
}

/**
 * Fits a take of any length: stretch by stretch, with memory for one at a time beside the result; where two meet the one is led into the other, so that
 * contacts at their ends are whole in one of them. Short takes are fitted in one piece.
 *
 * @param goOn asked before each stretch with the share that is done; false stops
 * @returns null when it was stopped
 *
 * @example
 * (await fitTake(motion, character, settings)).report.slideCm < 0.2; // true
 */
export async function fitTake(
  motion: Motion,
  character: Character,
  settings: FitSettings,
  goOn: (share: number) => Promise<boolean> | boolean = () => true,
  mostSamples = MOST_SAMPLES,
): Promise<FittedTake | null> {
  const { fps, frames } = motion;
  const overlap = Math.round(OVERLAP * fps);
  const length = Math.max(4 * overlap, Math.floor(mostSamples / motion.skeleton.joints.length));
  const plan = fitPlan(motion, character, settings);
  const out = createMotion(plan.character.skeleton, fps, frames);
  const translations = new Map<number, Float32Array>();
  const reports: FitReport[] = [];
  let contacts = 0;
  for (let from = 0; from === 0 || from + overlap < frames; from += length - overlap) {
    if (!(await goOn(from / frames))) return null;
    const to = frames - from < length + overlap ? frames : from + length;
    const fitted = fitMotion(cutMotion(motion, from, to - 1), character, settings, from, plan);
    reports.push(fitReport(fitted, from));
    // What two stretches share is counted once: each to the middle of it.
    const [first, end] = [from === 0 ? 0 : overlap / 2, to === frames ? Infinity : to - from - overlap / 2];
    contacts += [...fitted.contacts.left, ...fitted.contacts.right].filter((c) => c.from >= first && c.from < end).length;
    for (const joint of fitted.motion.translations?.keys() ?? []) {
      if (!translations.has(joint)) translations.set(joint, new Float32Array(frames * 3));
    }
    lay({ ...out, translations }, fitted.motion, from, overlap);
    if (to === frames) break;
  }
  alignSigns(out);
  const report = { ...worstOf(reports), contacts, seconds: (frames - 1) / fps };
  return { motion: translations.size > 0 ? { ...out, translations } : out, report, plan };
}

/** In place: puts a stretch into the whole, led in over the middle half of what it shares with the one before. */
function lay(whole: Motion, stretch: Motion, from: number, overlap: number): void {
  const row = whole.skeleton.joints.length * 4;
  const ways = [[whole.rootPositions, stretch.rootPositions] as const];
  for (const [joint, values] of stretch.translations ?? []) {
    const to = whole.translations?.get(joint);
    if (to) ways.push([to, values]);
  }
  /** The first frame that is the stretch's alone. */
  const alone = from === 0 ? 0 : Math.min(stretch.frames, Math.ceil(0.75 * overlap));
  for (let f = 0; f < alone; f++) {
    const share = smoothStep5((f - overlap / 4) / (overlap / 2));
    if (share <= 0) continue;
    const at = from + f;
    for (const [to, own] of ways) for (let k = 0; k < 3; k++) to[at * 3 + k] += share * (own[f * 3 + k] - to[at * 3 + k]);
    for (let i = 0; i < row; i += 4)
      slerp(whole.rotations, at * row + i, whole.rotations, at * row + i, stretch.rotations, f * row + i, share);
  }
  for (const [to, own] of ways) to.set(own.subarray(alone * 3), (from + alone) * 3);
  whole.rotations.set(stretch.rotations.subarray(alone * row), (from + alone) * row);
}
