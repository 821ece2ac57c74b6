import { DEGREES } from '../math/angles';
import { angleBetween, type Vec3 } from '../math/quat';
import { inner, minus, norm, unit, vecAt } from '../math/vec';
import { firstOf, PARTS, type Part, type Parts } from '../anatomy/parts';
import { handAxes, trunkFrame } from './reference';
import type { FitPlan } from './plan';
import type { WorldPose } from '../character/world-pose';

/** Which part a bone goes to from each part that has one. */
const NEXT: Readonly<Partial<Record<string, string>>> = {
  UpperArm: 'Forearm',
  Forearm: 'Hand',
  Thigh: 'Shin',
  Shin: 'Foot',
  Foot: 'Toes',
  Collar: 'UpperArm',
};

/**
 * How far apart the bones of each mapped part point in the two references, degrees: what is left between poses that count as the same.
 *
 * @example
 * mismatches(plan).leftUpperArm < 1; // true
 */
export function mismatches({
  sourceParts,
  targetParts,
  sourceReference,
  targetReference,
  source,
  character,
}: FitPlan): Partial<Record<Part, number>> {
  const out: Partial<Record<Part, number>> = {};
  for (const part of PARTS) {
    if (!sourceParts.parts[part] || !targetParts.parts[part]) continue;
    const a = boneOf(sourceParts.parts, sourceReference, part);
    const b = boneOf(targetParts.parts, targetReference, part);
    if (a && b) out[part] = Math.acos(Math.max(-1, Math.min(1, inner(a, b)))) * DEGREES;
  }
  const [s, t] = [trunkFrame(sourceParts.parts, sourceReference), trunkFrame(targetParts.parts, targetReference)];
  if (s && t) out.hips = angleBetween(s, 0, t, 0) * DEGREES;
  for (const side of ['left', 'right'] as const) {
    const a = handAxes(side, sourceParts.parts, source, sourceReference).along;
    const b = handAxes(side, targetParts.parts, character.skeleton, targetReference).along;
    if (a && b && out[`${side}Hand`] === undefined) out[`${side}Hand`] = Math.acos(Math.max(-1, Math.min(1, inner(a, b)))) * DEGREES;
  }
  return out;
}

function boneOf(parts: Parts['parts'], { positions }: WorldPose, part: Part): Vec3 | null {
  const [, side, limb] = /^(left|right)(.+)$/.exec(part) ?? [null, '', ''];
  const next = NEXT[limb ?? ''];
  const from = firstOf(parts, part);
  const trunk: Readonly<Partial<Record<Part, Part>>> = { spine: 'neck', neck: 'head' };
  const to = next ? firstOf(parts, `${side}${next}` as Part) : trunk[part] ? firstOf(parts, trunk[part]) : -1;
  if (from < 0 || to < 0) return null;
  const bone = minus(vecAt(positions, to), vecAt(positions, from));
  return norm(bone) > 1e-6 ? unit(bone) : null;
}
