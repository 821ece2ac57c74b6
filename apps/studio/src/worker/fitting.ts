import {
  fitMotion,
  fitPlan,
  fitReport,
  fitSettingsSchema,
  groundwork,
  localsOf,
  mismatches,
  restMotion,
  type Character,
  type FitOverrides,
  type FitReport,
  type Motion,
  type Part,
  type Parts,
  type Skeleton,
  type WorldPose,
} from '@lantern/motion';
import type { WireMotion } from './wire';

/** Who is mapped to whom, and the poses in which both are the same. */
export interface FitView {
  readonly source: MappedSide;
  readonly target: MappedSide;
  /** Degrees that the bones of each part are apart in the references. */
  readonly mismatch: Partial<Record<Part, number>>;
  readonly legRatio: number;
}

export interface MappedSide {
  readonly parts: Parts['parts'];
  readonly leftOut: readonly { readonly name: string; readonly reason: string }[];
  readonly sidesSwapped: boolean;
  readonly names: readonly string[];
  /** One frame: the reference pose. */
  readonly reference: WireMotion;
}

/** The take on the character, to be shown, and how it came out. */
export interface FittedView {
  readonly motion: WireMotion;
  readonly floor: number;
  readonly report: FitReport;
}

export function fitView(motion: Motion, character: Character, settings: FitOverrides): FitView {
  const plan = fitPlan(motion, character, fitSettingsSchema.parse(settings));
  const side = (skeleton: Skeleton, { parts, leftOut, sidesSwapped }: Parts, reference: WorldPose): MappedSide => ({
    parts,
    leftOut: leftOut.map(({ joint, reason }) => ({ name: skeleton.joints[joint].name, reason })),
    sidesSwapped,
    names: skeleton.joints.map(({ name }) => name),
    reference: standing(skeleton, reference),
  });
  return {
    source: side(motion.skeleton, plan.sourceParts, plan.sourceReference),
    target: side(character.skeleton, plan.targetParts, plan.targetReference),
    mismatch: mismatches(plan),
    legRatio: plan.legRatio,
  };
}

/** A pose over the origin, its lowest joint a little over the floor. */
function standing(skeleton: Skeleton, pose: WorldPose): WireMotion {
  const motion = restMotion(skeleton);
  localsOf(motion.rotations, 0, skeleton, pose);
  let low = Infinity;
  for (let i = 1; i < pose.positions.length; i += 3) low = Math.min(low, pose.positions[i]);
  motion.rootPositions.set([0, pose.positions[1] - low + 0.02, 0]);
  return motion;
}

export function fittedView(motion: Motion, character: Character, settings: FitOverrides): FittedView {
  const fitted = fitMotion(motion, character, fitSettingsSchema.parse(settings));
  return { motion: fitted.motion, floor: groundwork(motion)?.soles.floor ?? 0, report: fitReport(fitted) };
}
