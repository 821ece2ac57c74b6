import { cross, inner, minus, norm, unit, vecAt } from '../math/vec';
import type { Vec3 } from '../math/quat';
import { restPose, type Skeleton } from '../model/skeleton';
import type { Body, Side } from '../model/body';
import { fingersOf } from './find-fingers';

/** A joint of a finger with the axis about which it curls towards the palm, in the rest pose's world. */
export interface FingerJoint {
  readonly joint: number;
  readonly axis: Vec3;
  readonly isThumb: boolean;
  /** From the knuckle on: 0, 1, 2. */
  readonly place: number;
}

/** The joints of a hand's fingers, in the order of their skeleton; none where the hand has no fingers. */
export function fingerJoints(skeleton: Skeleton, body: Body, side: Side): FingerJoint[] {
  const { elbow, wrist } = body.arms[side];
  const { positions } = restPose(skeleton);
  const fingers = fingersOf(skeleton, positions, elbow, wrist);
  if (fingers.size === 0) return [];
  const at = (j: number) => vecAt(positions, j);
  const ends = [...fingers].map(([name, chain]) => ({ name, way: unit(minus(tipOf(skeleton, positions, chain), at(wrist))) }));
  const thumb = ends.find(({ name }) => name === 'Thumb');
  const others = ends.filter(({ name }) => name !== 'Thumb');
  const along = unit(
    (others.length > 0 ? others : ends).reduce<Vec3>((sum, { way }) => [sum[0] + way[0], sum[1] + way[1], sum[2] + way[2]], [0, 0, 0]),
  );
  const palm = palmOf(along, others.length > 0 ? (thumb?.way ?? null) : null, side);
  return [...fingers].flatMap(([name, chain]) =>
    chain.map((joint, place) => {
      const way = unit(minus(chain[place + 1] === undefined ? tipOf(skeleton, positions, chain) : at(chain[place + 1]), at(joint)));
      // A thumb folds over the palm, towards the other fingers.
      const towards: Vec3 = name === 'Thumb' ? unit([along[0] * 0.4 + palm[0], along[1] * 0.4 + palm[1], along[2] * 0.4 + palm[2]]) : palm;
      return { joint, axis: unit(cross(way, towards)), isThumb: name === 'Thumb', place };
    }),
  );
}

/** Where the palm faces: with the thumb to one side, fingers and thumb span it; without one it faces the floor, or the body of a hanging arm. */
function palmOf(along: Vec3, thumb: Vec3 | null, side: Side): Vec3 {
  const spanned = thumb && cross(along, thumb);
  if (spanned && norm(spanned) > 0.2) return unit(side === 'left' ? spanned : [-spanned[0], -spanned[1], -spanned[2]]);
  const down: Vec3 = Math.abs(along[1]) < 0.8 ? [0, -1, 0] : [side === 'left' ? -1 : 1, 0, 0];
  const off = inner(down, along);
  return unit([down[0] - off * along[0], down[1] - off * along[1], down[2] - off * along[2]]);
}

/** Where a finger ends: its tip, or as far beyond its last joint as that is from the one before. */
function tipOf(skeleton: Skeleton, positions: Float64Array, chain: readonly number[]): Vec3 {
  const last = chain[chain.length - 1];
  const here = vecAt(positions, last);
  const child = skeleton.joints.findIndex(({ parent }) => parent === last);
  if (child >= 0) return vecAt(positions, child);
  const before = vecAt(positions, skeleton.joints[last].parent);
  return [2 * here[0] - before[0], 2 * here[1] - before[1], 2 * here[2] - before[2]];
}
