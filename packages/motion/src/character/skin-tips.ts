import { multiplyInverse, rotate, type Vec3 } from '../math/quat';
import { inner, minus, norm, plus, times, unit, vecAt } from '../math/vec';
import type { Body, Leg } from '../model/body';
import { childrenOf, type Skeleton } from '../model/skeleton';
import type { FixedPoint } from '../model/fixed-point';
import type { Character, CharacterSkin } from './character';
import type { SolePoints } from '../anatomy/sole-points';
import type { Parts } from '../anatomy/parts';
import type { WorldPose } from './world-pose';

/** As near to the lowest as this, metres for a foot of 0.25 m, a point of the skin belongs to the sole. */
const SOLE_SHARE = 0.06;

/**
 * Where a character's feet bear, read off the skin as it stands: the level of the sole is the lowest point of the foot, heel and tip are its
 * ends along the foot, and the ball is under the toe joint.
 *
 * @param vertices of the skin in the world in the pose, three numbers each
 */
export function solesOfSkin(skin: CharacterSkin, vertices: Float32Array, pose: WorldPose, body: Body): Character['soles'] {
  return { left: soleOf(skin, vertices, pose, body.legs.left), right: soleOf(skin, vertices, pose, body.legs.right) };
}

function soleOf(skin: CharacterSkin, vertices: Float32Array, pose: WorldPose, { knee, ankle, toe }: Leg): SolePoints {
  const foot = carriedBy(skin, toe < 0 ? [ankle] : [ankle, toe]);
  const at = vecAt(pose.positions, ankle);
  const shin = norm(minus(at, vecAt(pose.positions, knee)));
  // Without a joint at the ball the foot goes where most of it lies from the ankle.
  const ahead = toe >= 0 ? minus(vecAt(pose.positions, toe), at) : minus(middleOf(foot, vertices) ?? [at[0], 0, at[2] + 0.1 * shin], at);
  const forward = unit([ahead[0], 0, ahead[2]]);
  const low = foot.length > 0 ? Math.min(...foot.map((v) => vertices[v * 3 + 1])) : at[1] - 0.1 * shin;
  const sole = foot.filter((v) => vertices[v * 3 + 1] < low + SOLE_SHARE * 0.6 * shin).map((v) => vecAt(vertices, v));
  const along = (p: Vec3) => inner(minus(p, at), forward);
  const reach = sole.map(along);
  const heel = reach.length > 0 ? Math.min(...reach) : -0.1 * shin;
  const tip = reach.length > 0 ? Math.max(...reach) : 0.4 * shin;
  const ball = toe >= 0 ? Math.hypot(ahead[0], ahead[2]) : heel + 0.7 * (tip - heel);
  const place = (s: number): Vec3 => [at[0] + forward[0] * s, low, at[2] + forward[2] * s];
  const end = toe < 0 ? ankle : toe;
  return { heel: fixed(pose, ankle, place(heel)), ball: fixed(pose, end, place(ball)), tip: fixed(pose, end, place(tip)) };
}

/** Vertices that some joints carry for the most part. */
function carriedBy({ joints, weights }: CharacterSkin, of: readonly number[]): number[] {
  const out: number[] = [];
  for (let v = 0; v * 4 < joints.length; v++) {
    let share = 0;
    for (let i = v * 4; i < v * 4 + 4; i++) if (of.includes(joints[i])) share += weights[i];
    if (share > 0.5) out.push(v);
  }
  return out;
}

function middleOf(which: readonly number[], vertices: Float32Array): Vec3 | null {
  if (which.length === 0) return null;
  const sum = [0, 0, 0];
  for (const v of which) for (let k = 0; k < 3; k++) sum[k] += vertices[v * 3 + k] / which.length;
  return [sum[0], sum[1], sum[2]];
}

/** A point of the world as a joint carries it. */
function fixed({ positions, rotations }: WorldPose, joint: number, point: Vec3): FixedPoint {
  const back = [0, 0, 0, 1];
  multiplyInverse(back, 0, rotations, joint * 4, [0, 0, 0, 1], 0);
  const local = [0, 0, 0];
  rotate(local, 0, back, 0, minus(point, vecAt(positions, joint)), 0);
  return { joint, local: [local[0], local[1], local[2]] };
}

/** The skeleton with end sites at heels and toe tips, and where head, hands and fingers end in the skin. */
export function withTips(
  skeleton: Skeleton,
  skin: CharacterSkin,
  vertices: Float32Array,
  pose: WorldPose,
  { parts }: Parts,
  soles: Character['soles'],
): Skeleton {
  const tips = new Map<number, Vec3[]>();
  const add = ({ joint, local }: FixedPoint) => tips.set(joint, [...(tips.get(joint) ?? []), local]);
  for (const side of ['left', 'right'] as const) {
    add(soles[side].tip);
    if (soles[side].heel.joint !== soles[side].tip.joint) add(soles[side].heel);
  }
  const children = childrenOf(skeleton);
  const head = parts.head?.joints[0];
  const ends = Object.entries(parts).flatMap(([part, { joints }]) =>
    /Hand|Thumb|Index|Middle|Ring|Little/.test(part) ? joints.slice(-1) : [],
  );
  for (const joint of ends) {
    if (children[joint].length > 0) continue;
    const at = vecAt(pose.positions, joint);
    const bone = unit(minus(at, vecAt(pose.positions, skeleton.joints[joint].parent)));
    const far = farthest(carriedBy(skin, [joint]), vertices, (p) => inner(minus(p, at), bone));
    if (far) add(fixed(pose, joint, plus(at, times(bone, far.reach))));
  }
  if (head !== undefined) {
    const at = vecAt(pose.positions, head);
    const crown = farthest(carriedBy(skin, [head]), vertices, (p) => p[1] - at[1]);
    if (crown) add(fixed(pose, head, [at[0], at[1] + crown.reach, at[2]]));
  }
  return { joints: skeleton.joints.map((joint, j) => ({ ...joint, endSites: tips.get(j) ?? [] })) };
}

function farthest(which: readonly number[], vertices: Float32Array, measure: (point: Vec3) => number): { reach: number } | null {
  let reach = -Infinity;
  for (const v of which) reach = Math.max(reach, measure(vecAt(vertices, v)));
  return which.length > 0 && reach > 0 ? { reach } : null;
}

/** The skeleton with end sites where the last joints of its chains end in the skin: so a head is told from the end of a neck. */
export function withLeafTips(skeleton: Skeleton, skin: CharacterSkin, vertices: Float32Array, pose: WorldPose): Skeleton {
  const children = childrenOf(skeleton);
  return {
    joints: skeleton.joints.map((joint, j) => {
      if (children[j].length > 0 || joint.parent < 0) return joint;
      const at = vecAt(pose.positions, j);
      const bone = unit(minus(at, vecAt(pose.positions, joint.parent)));
      const far = farthest(carriedBy(skin, [j]), vertices, (p) => inner(minus(p, at), bone));
      return far ? { ...joint, endSites: [fixed(pose, j, plus(at, times(bone, far.reach))).local] } : joint;
    }),
  };
}
