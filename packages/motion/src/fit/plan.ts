import { InputError } from '../error';
import { RADIANS } from '../math/angles';
import { fromAxisAngle, multiply, multiplyInverse, type Quat, type Vec3 } from '../math/quat';
import { cross, inner, minus, norm, times, turned, unit, vecAt } from '../math/vec';
import { NOT_A_PERSON } from '../anatomy/body';
import type { Body } from '../model/body';
import { bodyOf } from '../anatomy/body-of';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { characterBase, sourceBase, withPlaces } from './base-pose';
import type { Character } from '../character/character';
import { corrected } from './corrected';
import { findParts } from '../character/find-parts';
import { matchChain } from './match-chain';
import { bodyOfParts, FINGERS, type Part, type Parts } from '../anatomy/parts';
import { straightened, turnParts } from './reference';
import type { FitSettings } from './settings';
import { copyPose, type WorldPose } from '../character/world-pose';

/** Where a joint of the target takes its rotation from. */
export type Drive =
  /** It keeps its place against its parent: `local` is its rotation there. */
  | { readonly kind: 'follow'; readonly local: Quat }
  /** The turn of joint `a` of the source from its reference, or `u` of the way from that of `a` to that of `b`. */
  | { readonly kind: 'turn'; readonly a: number; readonly b: number; readonly u: number }
  /** It takes up a share of how a hand is rolled against its forearm, both joints of the target; `axis` in the forearm's axes. */
  | {
      readonly kind: 'roll';
      readonly forearm: number;
      readonly hand: number;
      readonly share: number;
      readonly axis: Vec3;
      readonly local: Quat;
    };

/** All that is the same in every frame of a fit. */
export interface FitPlan {
  readonly source: Skeleton;
  readonly character: Character;
  readonly sourceParts: Parts;
  readonly targetParts: Parts;
  readonly sourceReference: WorldPose;
  readonly targetReference: WorldPose;
  /** One for each joint of the target. */
  readonly drives: readonly Drive[];
  readonly sourceBody: Body;
  readonly targetBody: Body;
  /** Lengths of the target's legs and arms to those of the source. */
  readonly legRatio: number;
  readonly armRatio: number;
  /** Every joint has its own and their bones are the same: whatever the axes and names, the one is built like the other. */
  readonly sameBuild: boolean;
}

/**
 * Settles what does not change from frame to frame: which joint follows which, and the pose in which both are the same.
 *
 * @param motion of the source, metres, Y up; where its rest pose does not stand, its most upright frame is the pose to start from
 * @throws InputError `fit` when the source has no two legs
 *
 * @example
 * fitPlan(motion, character, settings).legRatio < 1; // true
 */
export function fitPlan(motion: Motion, character: Character, settings: FitSettings): FitPlan {
  const source = motion.skeleton;
  const base = sourceBase(motion);
  const found = findParts(source, base.pose, bodyOf(motion));
  if (!found) throw new InputError('fit', `${NOT_A_PERSON} It cannot be fitted to a character.`);
  const sourceParts = corrected(source, found, settings.mapping.source);
  const targetParts = corrected(character.skeleton, character.parts, settings.mapping.target);
  const sourceBody = bodyOfParts(sourceParts.parts);
  const targetBody = bodyOfParts(targetParts.parts);
  if (!sourceBody || !targetBody) {
    const who = sourceBody ? character.name : 'the take';
    throw new InputError('fit', `Of ${who}, hips and two legs of thigh, shin and foot must be mapped.`, { field: 'mapping' });
  }
  const { reference } = settings;
  const sourceReference = referenceOf(source, sourceParts.parts, base.pose, reference.source);
  turnParts(source, sourceParts.parts, sourceReference, reference.turns.source);
  const targetReference = referenceOf(character.skeleton, targetParts.parts, characterBase(character), reference.target);
  turnParts(character.skeleton, targetParts.parts, targetReference, reference.turns.target);
  const drives = drivesOf(
    { skeleton: source, parts: sourceParts.parts, pose: sourceReference },
    { skeleton: character.skeleton, parts: targetParts.parts, pose: targetReference },
    settings.curlDeg,
    targetParts,
  );
  const [sourceLimbs, targetLimbs] = [limbLengths(sourceBody, sourceReference), limbLengths(targetBody, targetReference)];
  return {
    source,
    character: { ...character, skeleton: { ...character.skeleton, body: targetBody } },
    sourceParts,
    targetParts,
    sourceReference,
    targetReference,
    drives,
    sourceBody,
    targetBody,
    legRatio: targetLimbs.leg / sourceLimbs.leg,
    armRatio: sourceLimbs.arm > 0 && targetLimbs.arm > 0 ? targetLimbs.arm / sourceLimbs.arm : targetLimbs.leg / sourceLimbs.leg,
    sameBuild: isSameBuild(source, character.skeleton, drives, sourceReference, targetReference),
  };
}

type Reference = FitSettings['reference']['source'];

/** The pose of a skeleton that counts as the same as the other's. */
export function referenceOf(skeleton: Skeleton, parts: Parts['parts'], base: WorldPose, kind: Reference): WorldPose {
  if (kind === 'T' || kind === 'A') return straightened(skeleton, parts, base, kind);
  if (kind === 'rest') return copyPose(base);
  const rotations = new Float64Array(skeleton.joints.length * 4);
  skeleton.joints.forEach(({ name, parent, restRotation }, j) => {
    const local = kind.rotations[name] ?? restRotation;
    if (parent < 0) rotations.set(local, 0);
    else multiply(rotations, j * 4, rotations, parent * 4, local, 0);
  });
  return withPlaces(skeleton, rotations, base.positions);
}

interface Side {
  readonly skeleton: Skeleton;
  readonly parts: Parts['parts'];
  readonly pose: WorldPose;
}

function drivesOf(source: Side, target: Side, curlDeg: number, { leftOut }: Parts): Drive[] {
  const drives: Drive[] = target.skeleton.joints.map((_, j) => ({ kind: 'follow', local: localIn(target, j) }));
  const joints = (side: Side, part: Part) => side.parts[part]?.joints ?? [];
  const give = (joint: number, a: number, b: number, u: number) => {
    drives[joint] = { kind: 'turn', a, b, u };
  };
  const spread = (part: Part, below: number, above: number) => {
    const from = joints(source, part);
    const onto = joints(target, part);
    const whereIs = (side: Side, chain: readonly number[]) => alongChain(side, chain, part);
    const shares = matchChain(whereIs(source, from), whereIs(target, onto));
    shares.forEach(({ a, b, u }, i) => {
      const lower = a < 0 ? below : from[a];
      const upper = from[b] ?? (above < 0 ? below : above);
      if (upper >= 0) give(onto[i], lower < 0 ? upper : lower, upper, lower < 0 ? 0 : u);
    });
  };
  const hips = joints(source, 'hips').at(-1) ?? -1;
  const chest = joints(source, 'spine').at(-1) ?? hips;
  const head = joints(source, 'head')[0] ?? -1;
  spread('hips', -1, hips);
  spread('spine', hips, hips);
  spread('neck', chest, head);
  spread('head', -1, joints(source, 'neck').at(-1) ?? chest);
  for (const side of ['left', 'right'] as const) {
    if (joints(source, `${side}Collar`).length > 0) spread(`${side}Collar`, chest, -1);
    for (const part of ['UpperArm', 'Forearm', 'Hand', 'Thigh', 'Shin', 'Foot', 'Toes'] as const) {
      const [from, onto] = [joints(source, `${side}${part}`)[0], joints(target, `${side}${part}`)[0]];
      if (from !== undefined && onto !== undefined) give(onto, from, from, 0);
    }
    for (const finger of FINGERS) {
      const from = joints(source, `${side}${finger}`);
      joints(target, `${side}${finger}`).forEach((joint, i) => {
        if (from[i] !== undefined) give(joint, from[i], from[i], 0);
        else drives[joint] = { kind: 'follow', local: curled(target, joint, side, finger === 'Thumb' ? 0.4 * curlDeg : curlDeg) };
      });
    }
    const [forearm, hand] = [joints(target, `${side}Forearm`)[0], joints(target, `${side}Hand`)[0]];
    if (forearm === undefined || hand === undefined) continue;
    const inLine = joints(target, `${side}Forearm`).slice(1);
    const beside = leftOut.filter(
      ({ joint }) => target.skeleton.joints[joint].parent === forearm && isOnBone(target.pose, joint, forearm, hand),
    );
    // A joint in line carries the hand itself: its roll is the hand's already.
    if (inLine.length === 0) for (const { joint } of beside) drives[joint] = rollOf(target, joint, forearm, hand);
  }
  return drives;
}

function localIn({ skeleton, pose }: Side, joint: number): Quat {
  const p = skeleton.joints[joint].parent;
  const out: [number, number, number, number] = [0, 0, 0, 1];
  if (p < 0) return [pose.rotations[0], pose.rotations[1], pose.rotations[2], pose.rotations[3]];
  multiplyInverse(out, 0, pose.rotations, p * 4, pose.rotations, joint * 4);
  return out;
}

/** Where the joints of a chain are along it, from what it hangs from (0) to where it ends (1). */
function alongChain({ skeleton, parts, pose }: Side, chain: readonly number[], part: Part): number[] {
  if (chain.length === 0) return [];
  const from = skeleton.joints[chain[0]].parent;
  const after = part === 'spine' ? (parts.neck?.joints[0] ?? parts.head?.joints[0]) : part === 'neck' ? parts.head?.joints[0] : undefined;
  const stops = [...(from >= 0 ? [from] : []), ...chain, ...(after === undefined ? [] : [after])];
  const lengths = [0];
  for (let i = 1; i < stops.length; i++)
    lengths.push(lengths[i - 1] + norm(minus(vecAt(pose.positions, stops[i]), vecAt(pose.positions, stops[i - 1]))));
  const whole = lengths[lengths.length - 1] || 1;
  return chain.map((_, i) => lengths[i + (from >= 0 ? 1 : 0)] / whole);
}

/** A finger joint bent towards the palm, which in the reference faces away from the front and the thumb. */
function curled(target: Side, joint: number, side: 'left' | 'right', degrees: number): Quat {
  const { pose, skeleton, parts } = target;
  const hand = parts[`${side}Hand`]?.joints[0] ?? skeleton.joints[joint].parent;
  const along = unit(minus(vecAt(pose.positions, joint), vecAt(pose.positions, hand)));
  const palm = cross(along, [0, 0, side === 'left' ? 1 : -1]);
  const axis = unit(cross(along, palm));
  const back: Quat = [
    -pose.rotations[joint * 4],
    -pose.rotations[joint * 4 + 1],
    -pose.rotations[joint * 4 + 2],
    pose.rotations[joint * 4 + 3],
  ];
  const out: [number, number, number, number] = [...localIn(target, joint)];
  multiply(out, 0, out, 0, fromAxisAngle(turned(back, 0, axis), degrees * RADIANS), 0);
  return out;
}

/** Whether a joint lies on the bone from one joint to another, between its ends. */
function isOnBone({ positions }: WorldPose, joint: number, from: number, to: number): boolean {
  const bone = minus(vecAt(positions, to), vecAt(positions, from));
  const own = minus(vecAt(positions, joint), vecAt(positions, from));
  const share = inner(own, bone) / (inner(bone, bone) || 1);
  return share > 0.02 && share < 1.02 && norm(minus(own, times(bone, share))) < 0.05 * norm(bone);
}

function rollOf(target: Side, joint: number, forearm: number, hand: number): Drive {
  const { pose } = target;
  const at = (j: number) => vecAt(pose.positions, j);
  const bone = minus(at(hand), at(forearm));
  const axis = turned(
    [-pose.rotations[forearm * 4], -pose.rotations[forearm * 4 + 1], -pose.rotations[forearm * 4 + 2], pose.rotations[forearm * 4 + 3]],
    0,
    unit(bone),
  );
  const share = Math.max(0, Math.min(1, inner(minus(at(joint), at(forearm)), bone) / (inner(bone, bone) || 1)));
  return { kind: 'roll', forearm, hand, share, axis, local: localIn(target, joint) };
}

function limbLengths({ legs, arms }: Body, { positions }: WorldPose): { leg: number; arm: number } {
  const between = (a: number, b: number) => (a < 0 || b < 0 ? 0 : norm(minus(vecAt(positions, a), vecAt(positions, b))));
  const sides = ['left', 'right'] as const;
  return {
    leg: sides.reduce((sum, s) => sum + (between(legs[s].hip, legs[s].knee) + between(legs[s].knee, legs[s].ankle)) / 2, 0),
    arm: sides.reduce((sum, s) => sum + (between(arms[s].shoulder, arms[s].elbow) + between(arms[s].elbow, arms[s].wrist)) / 2, 0),
  };
}

/** Bones as long and as directed as each other, within a tenth of a millimetre. */
const SAME_BONE = 1e-4;

function isSameBuild(source: Skeleton, target: Skeleton, drives: readonly Drive[], a: WorldPose, b: WorldPose): boolean {
  if (source.joints.length !== target.joints.length) return false;
  return drives.every((drive, j) => {
    // What follows its parent in both is no part of the body; where it is is its parent's matter.
    if (drive.kind !== 'turn') return target.joints[j].parent >= 0;
    if (drive.a !== drive.b) return false;
    const [p, q] = [source.joints[drive.a].parent, target.joints[j].parent];
    if (p < 0 || q < 0) return p < 0 && q < 0;
    const own = minus(vecAt(b.positions, j), vecAt(b.positions, q));
    const other = minus(vecAt(a.positions, drive.a), vecAt(a.positions, p));
    return norm(minus(own, other)) < SAME_BONE;
  });
}
