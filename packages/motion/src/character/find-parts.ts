import type { Body, Side } from '../model/body';
import { firstStandsLeft, otherWayRound } from '../anatomy/body-sides';
import { pathTo } from '../anatomy/body-look';
import { findBody } from '../anatomy/find-body';
import { jointWords } from '../anatomy/joint-words';
import { restMotion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { fingersOf } from './find-fingers';
import { PARTS, partOf, type FoundPart, type LeftOut, type Part, type Parts } from '../anatomy/parts';
import { posedSkeleton, type WorldPose } from './world-pose';

/** Feet that point this clearly settle left and right, whatever the names say (a sine). */
const CLEARLY = 0.5;

/**
 * Finds the parts of the body among the joints of a skeleton: the chains from hierarchy and geometry, what each joint is from its name, and
 * from both how sure that is.
 *
 * @param pose in which it stands more or less upright, Y up
 * @param body when it is known from more than this pose
 * @returns null when there are no two legs
 *
 * @example
 * findParts(character.skeleton, { positions: restPose(character.skeleton).positions, rotations: restPose(character.skeleton).rotations }) !== null; // true
 */
export function findParts(
  skeleton: Skeleton,
  pose: WorldPose,
  body: Body | null = findBody(restMotion(posedSkeleton(skeleton, pose))),
): Parts | null {
  if (!body) return null;
  const turned = firstStandsLeft(pose.positions, body.legs.left, body.legs.right);
  const named = nameSides(skeleton, body);
  const sidesSwapped = named && turned < -CLEARLY;
  const chains = chainsOf(skeleton, pose, turned < -CLEARLY || (!named && turned < 0) ? otherWayRound(body) : body);
  const parts: Partial<Record<Part, FoundPart>> = {};
  for (const part of PARTS) {
    const joints = chains.get(part);
    if (joints && joints.length > 0) parts[part] = doubted(judge(skeleton, part, joints, sidesSwapped), part, body.doubts);
  }
  return { parts, leftOut: leftOver(skeleton, parts), sidesSwapped };
}

const nameSides = (skeleton: Skeleton, { legs }: Body): boolean =>
  (['left', 'right'] as const).every((side) => jointWords(skeleton.joints[legs[side].hip].name).side !== null);

function chainsOf(skeleton: Skeleton, pose: WorldPose, body: Body): Map<Part, number[]> {
  const out = new Map<Part, number[]>();
  // A head without anything above it looks like the end of a neck: its name tells.
  const head = skeleton.joints.findIndex(
    ({ name, parent }) => parent === body.head && jointWords(name).part === 'head' && jointWords(name).helper === null,
  );
  const toHead = pathTo(skeleton, head >= 0 ? head : body.head);
  const toHips = pathTo(skeleton, body.hips);
  // Where the ways to the head and to the legs part: all of the body hangs from there.
  let top = 0;
  while (toHead[top + 1] === toHips[top + 1] && top + 1 < toHips.length && top + 1 < toHead.length) top++;
  const firstHips = toHips.findIndex((j, i) => i <= top && jointWords(skeleton.joints[j].name).part === 'hips');
  out.set('hips', [...new Set(toHips.slice(firstHips >= 0 ? firstHips : top))]);
  const above = toHead.slice(top + 1).filter((j) => !isTwist(skeleton, j));
  const chestAt = above.indexOf(body.chest);
  // A name may know better where the neck begins and which joint is the head.
  const firstNeck = above.findIndex((j, i) => i >= chestAt && jointWords(skeleton.joints[j].name).part === 'neck');
  const namedHead = above.findIndex((j) => jointWords(skeleton.joints[j].name).part === 'head');
  const headAt = namedHead >= 0 ? namedHead : above.length - 1;
  const neckAt = firstNeck >= 0 && firstNeck < headAt ? firstNeck : Math.min(headAt, Math.max(chestAt + 1, 0));
  out.set('spine', above.slice(0, neckAt));
  out.set('neck', above.slice(neckAt, headAt));
  out.set('head', above.slice(headAt, headAt + 1));

  for (const side of ['left', 'right'] as const) {
    const { hip, knee, ankle, toe } = body.legs[side];
    limb(out, skeleton, side, [
      ['Thigh', hip],
      ['Shin', knee],
      ['Foot', ankle],
      ['Toes', toe],
    ]);
    const { shoulder, elbow, wrist } = body.arms[side];
    if (shoulder < 0) continue;
    limb(out, skeleton, side, [
      ['UpperArm', shoulder],
      ['Forearm', elbow],
      ['Hand', wrist],
    ]);
    const path = pathTo(skeleton, shoulder);
    const joint = path.findIndex((j) => !toHead.includes(j));
    if (joint >= 0) out.set(partOf(side, 'Collar'), path.slice(joint, -1));
    for (const [finger, joints] of fingersOf(skeleton, pose.positions, elbow, wrist)) out.set(partOf(side, finger), joints);
  }
  return out;
}

type Bone = readonly [part: 'Thigh' | 'Shin' | 'Foot' | 'Toes' | 'UpperArm' | 'Forearm' | 'Hand', joint: number];

/** Each part has its joint and those on the way to the next, which take up twist; the last has its joint alone. */
function limb(out: Map<Part, number[]>, skeleton: Skeleton, side: Side, bones: readonly Bone[]): void {
  bones.forEach(([part, joint], i) => {
    if (joint < 0) return;
    const next = bones[i + 1]?.[1] ?? -1;
    const path = next < 0 ? [joint] : pathTo(skeleton, next);
    out.set(partOf(side, part), next < 0 ? [joint] : path.slice(path.indexOf(joint), -1));
  });
}

const OF_LIMB = { arms: /Collar|UpperArm|Forearm|Hand/, legs: /Thigh|Shin|Foot/, sides: /^(left|right)/ } as const;

/** A part is no surer than what it was found by. */
function doubted(found: FoundPart, part: Part, doubts: Body['doubts']): FoundPart {
  const least = doubts.filter((doubt) => OF_LIMB[doubt.part].test(part)).reduce((least, { sure }) => Math.min(least, sure), 1);
  return least < found.confidence
    ? { ...found, confidence: least, reason: `${found.reason}; lengths and place allow another reading` }
    : found;
}

const isTwist = (skeleton: Skeleton, j: number) => jointWords(skeleton.joints[j].name).helper === 'twist';

function judge(skeleton: Skeleton, part: Part, joints: readonly number[], swapped: boolean): FoundPart {
  const [, side, limbPart] = /^(left|right)(.+)$/.exec(part) ?? [null, null, part];
  const words = joints.map((j) => jointWords(skeleton.joints[j].name)).filter(({ helper }) => helper !== 'twist');
  const says = words.filter((w) => w.part !== null);
  const agrees = words.filter((w) => w.part === limbPart || isUpperLeg(w.part, limbPart));
  const wrongSide = side !== null && words.some((w) => w.side !== null && (w.side !== side) !== swapped);
  const more = swapped && side !== null ? '; left and right are named the other way round' : '';
  if (wrongSide) return { joints, confidence: 0.4, reason: 'where it hangs; its name says the other side' };
  if (says.length === 0) return { joints, confidence: 0.75, reason: `where it hangs; the name says nothing${more}` };
  if (agrees.length === words.length)
    return { joints, confidence: swapped && side !== null ? 0.7 : 0.98, reason: `name and place agree${more}` };
  if (agrees.length > 0)
    return { joints, confidence: 0.85, reason: `where it hangs; ${agrees.length} of ${words.length} names agree${more}` };
  return { joints, confidence: 0.55, reason: `where it hangs; the name would say ${says[0].part?.toLowerCase()}${more}` };
}

/** "Leg" alone is the upper or the lower one by where it hangs; so is "shoulder" collar or upper arm. */
const isUpperLeg = (said: string | null, part: string): boolean =>
  (said === 'Shin' && part === 'Thigh') || (said === 'Collar' && part === 'UpperArm') || (said === 'UpperArm' && part === 'Forearm');

function leftOver(skeleton: Skeleton, parts: Parts['parts']): LeftOut[] {
  const mapped = new Set(Object.values(parts).flatMap(({ joints }) => joints));
  const top = parts.hips?.joints[0] ?? 0;
  const above = new Set(pathTo(skeleton, top));
  return skeleton.joints.flatMap(({ name }, joint) => {
    if (mapped.has(joint)) return [];
    const { helper } = jointWords(name);
    const reason = above.has(joint)
      ? 'above the hips: carries the character'
      : helper === 'twist'
        ? 'takes up twist: follows its limb'
        : helper === 'tip'
          ? 'marks the end of a bone'
          : helper === 'other'
            ? 'serves something else, by its name'
            : 'no part of the body';
    return [{ joint, reason }];
  });
}
