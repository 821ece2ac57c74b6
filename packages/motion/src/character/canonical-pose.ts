import { multiply, rotate, type Vec3 } from '../math/quat';
import { norm, plus, shortestTurn, unit } from '../math/vec';
import type { Body } from '../model/body';
import { restPose, type Skeleton } from '../model/skeleton';
import { fingersOf } from './find-fingers';

/** Places and world rotations of all joints, three and four numbers each. */
export interface StandingPose {
  readonly positions: Float64Array;
  readonly rotations: Float64Array;
}

const DOWN: Vec3 = [0, -1, 0];
const UP: Vec3 = [0, 1, 0];

/**
 * A body standing with its arms half down, whatever pose it rests in: each bone of trunk and limbs turned the shortest way to where it points in
 * somebody who stands, facing +Z, the hips at the origin. Bones of nobody's limb keep their turn to their parent.
 */
export function standingPose(skeleton: Skeleton, body: Body): StandingPose {
  const rest = restPose(skeleton);
  const aims = aimsOf(skeleton, rest.positions, body);
  const n = skeleton.joints.length;
  const out = { positions: new Float64Array(n * 3), rotations: new Float64Array(n * 4) };
  const face = facing(rest.positions, body);
  skeleton.joints.forEach((joint, j) => {
    const p = joint.parent;
    if (p < 0) multiply(out.rotations, 0, face, 0, rest.rotations, 0);
    else {
      multiply(out.rotations, j * 4, out.rotations, p * 4, joint.restRotation, 0);
      rotate(out.positions, j * 3, out.rotations, p * 4, joint.offset, 0);
      for (let k = 0; k < 3; k++) out.positions[j * 3 + k] += out.positions[p * 3 + k];
    }
    const aim = aims.get(j);
    if (!aim) return;
    const along = [0, 0, 0];
    rotate(along, 0, out.rotations, j * 4, aim.offset, 0);
    if (norm([along[0], along[1], along[2]]) < 1e-9) return;
    const turn = shortestTurn(unit([along[0], along[1], along[2]]), unit(aim.to));
    multiply(out.rotations, j * 4, turn, 0, out.rotations, j * 4);
  });
  return out;
}

/** What turns a rest pose so that its left is at +X. */
function facing(rest: Float64Array, { legs }: Body): readonly [number, number, number, number] {
  const [l, r] = [legs.left.hip * 3, legs.right.hip * 3];
  const left: Vec3 = [rest[l] - rest[r], rest[l + 1] - rest[r + 1], rest[l + 2] - rest[r + 2]];
  return norm(left) < 1e-9 ? [0, 0, 0, 1] : shortestTurn(unit(left), [1, 0, 0]);
}

interface Aim {
  /** What of the joint points there: the offset of the next joint of the chain, or a tip. */
  readonly offset: Vec3;
  readonly to: Vec3;
}

/** @param places of the joints in the rest pose */
function aimsOf(skeleton: Skeleton, places: Float64Array, body: Body): ReadonlyMap<number, Aim> {
  const { joints } = skeleton;
  const aims = new Map<number, Aim>();
  const path = (from: number, to: number) => {
    const out: number[] = [];
    for (let j = to; j >= 0 && j !== from; j = joints[j].parent) out.unshift(j);
    return out;
  };
  const along = (from: number, to: number, direction: Vec3) => {
    if (from < 0 || to < 0) return;
    let at = from;
    for (const j of path(from, to)) {
      if (joints[j].parent === at && norm(joints[j].offset) > 1e-6) aims.set(at, { offset: joints[j].offset, to: direction });
      at = j;
    }
  };
  along(body.hips, body.head, UP);
  const crown = joints[body.head].endSites[0] ?? joints.find(({ parent }) => parent === body.head)?.offset;
  if (crown && norm(crown) > 1e-6) aims.set(body.head, { offset: crown, to: UP });
  for (const [side, sign] of [
    ['left', 1],
    ['right', -1],
  ] as const) {
    const { hip, knee, ankle, toe } = body.legs[side];
    along(hip, knee, DOWN);
    along(knee, ankle, DOWN);
    const front: Vec3 = [0.1 * sign, -0.35, 1];
    if (toe >= 0) along(ankle, toe, front);
    else if (joints[ankle].endSites[0]) aims.set(ankle, { offset: joints[ankle].endSites[0], to: front });
    if (toe >= 0 && joints[toe].endSites[0]) aims.set(toe, { offset: joints[toe].endSites[0], to: [0.1 * sign, 0, 1] });
    const { shoulder, elbow, wrist } = body.arms[side];
    const down: Vec3 = [0.62 * sign, -0.78, 0];
    if (shoulder >= 0) {
      const collar = joints[shoulder].parent;
      if (collar >= 0 && collar !== body.chest && !aims.has(collar))
        aims.set(collar, { offset: joints[shoulder].offset, to: [sign, 0.05, 0] });
    }
    along(shoulder, elbow, down);
    along(elbow, wrist, down);
    const knuckles = [...fingersOf(skeleton, places, elbow, wrist)].flatMap(([finger, [knuckle]]) =>
      finger === 'Thumb' ? [] : [joints[knuckle].offset],
    );
    const hand = knuckles.length > 0 ? knuckles.reduce((sum, knuckle) => plus(sum, knuckle)) : joints[wrist]?.endSites[0];
    if (hand && norm(hand) > 1e-6) aims.set(wrist, { offset: hand, to: down });
  }
  return aims;
}
