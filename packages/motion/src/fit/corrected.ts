import type { Skeleton } from '../model/skeleton';
import { PARTS, type FoundPart, type Part, type Parts } from '../anatomy/parts';

/** What was found with what a person has put right: named joints take the part, an empty list leaves it out. Names that are not there are passed over. */
export function corrected(skeleton: Skeleton, found: Parts, by: Readonly<Partial<Record<Part, readonly string[]>>>): Parts {
  const number = new Map(skeleton.joints.map(({ name }, j) => [name, j]));
  const parts: Partial<Record<Part, FoundPart>> = { ...found.parts };
  for (const part of PARTS) {
    const names = by[part];
    if (!names) continue;
    const joints = names.flatMap((name) => number.get(name) ?? []).sort((a, b) => a - b);
    if (joints.length > 0) parts[part] = { joints, confidence: 1, reason: 'chosen by hand' };
    else if (names.length === 0) delete parts[part];
  }
  const chosen = new Set(PARTS.flatMap((part) => (by[part] ? (parts[part]?.joints ?? []) : [])));
  // A joint that was given to one part is taken from the others.
  for (const part of PARTS) {
    const held = parts[part];
    if (!held || by[part]) continue;
    const joints = held.joints.filter((j) => !chosen.has(j));
    if (joints.length === 0) delete parts[part];
    else if (joints.length < held.joints.length) parts[part] = { ...held, joints };
  }
  const mapped = new Set(Object.values(parts).flatMap(({ joints }) => joints));
  const before = new Map(found.leftOut.map(({ joint, reason }) => [joint, reason]));
  const leftOut = skeleton.joints.flatMap((_, joint) =>
    mapped.has(joint) ? [] : [{ joint, reason: before.get(joint) ?? 'left out by hand' }],
  );
  return { ...found, parts, leftOut };
}
