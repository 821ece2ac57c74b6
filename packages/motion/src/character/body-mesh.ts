import type { Vec3 } from '../math/quat';
import { across, cross, minus, norm, plus, times, turned, unit } from '../math/vec';
import type { CharacterSkin } from './character';
import type { Body } from '../model/body';
import { childrenOf, restPose, type Skeleton } from '../model/skeleton';

/** A simple body: tapered capsules, each rigid on one joint. Positions and normals in the world of the rest pose. */
export interface BodyMesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly indices: Uint16Array | Uint32Array;
  /** The joint of each vertex, or the one that carries it most. */
  readonly joints: Uint16Array;
  /** Of a skin with weights: four joints and weights a vertex, colours, and how the joints stood when it was bound. */
  readonly skin?: Pick<CharacterSkin, 'joints' | 'weights' | 'colours' | 'bindPositions' | 'bindRotations'>;
}

/** Radii at both ends; `wide` stretches the section sideways, `deep` front to back. */
export interface Shape {
  readonly from: number;
  readonly to: number;
  readonly wide?: number;
  readonly deep?: number;
}

const HIP: Shape = { from: 0.07, to: 0.078 };

/** How many corners a ring has, and how many rings a round end. */
interface Fineness {
  readonly round: number;
  readonly rings: number;
}

const FINE: Fineness = { round: 14, rings: 4 };

/**
 * Makes a body from a skeleton, so that an engine that needs a skin to make a skeleton has one, and the stage something to
 * light. Thick where a body is thick when the parts of the body are known; else by the length of each bone.
 *
 * @param skeleton in metres
 *
 * @example
 * bodyMesh(motion.skeleton, bodyOf(motion)).positions.length % 3; // 0
 */
export function bodyMesh(skeleton: Skeleton, body: Body | null): BodyMesh {
  const { positions: rest, rotations } = restPose(skeleton);
  const children = childrenOf(skeleton);
  const scale = heightOf(skeleton) / 1.78;
  const shapes = body ? shapesOf(skeleton, body) : new Map<number, Shape>();
  const out = { positions: [] as number[], normals: [] as number[], indices: [] as number[], joints: [] as number[] };
  const place = (j: number): Vec3 => [rest[j * 3], rest[j * 3 + 1], rest[j * 3 + 2]];
  skeleton.joints.forEach((joint, j) => {
    const ends: { at: Vec3; child: number }[] = children[j].map((child) => ({ at: place(child), child }));
    for (const tip of joint.endSites) {
      ends.push({ at: plus(place(j), turned(rotations, j * 4, tip)), child: -1 });
    }
    for (const { at, child } of ends) {
      const length = norm(minus(at, place(j)));
      if (length < 0.015 * scale) continue;
      const isHip = body !== null && (child === body.legs.left.hip || child === body.legs.right.hip);
      const shape = (isHip ? HIP : shapes.get(j)) ?? {
        from: 0.18 * Math.min(length / scale, 0.3),
        to: 0.14 * Math.min(length / scale, 0.3),
      };
      // A tip is where the body ends: the round end stays inside it.
      const inside = child < 0 ? Math.min(shape.to * scale, 0.7 * length) / length : 0;
      const end = minus(at, times(minus(at, place(j)), inside));
      capsule(out, j, place(j), end, { ...shape, from: shape.from * scale, to: shape.to * scale });
    }
  });
  const vertices = out.positions.length / 3;
  return {
    positions: Float32Array.from(out.positions),
    normals: Float32Array.from(out.normals),
    indices: vertices > 65535 ? Uint32Array.from(out.indices) : Uint16Array.from(out.indices),
    joints: Uint16Array.from(out.joints),
  };
}

function heightOf(skeleton: Skeleton): number {
  // The longest way from joint 0 to a leaf is about 0.56 of the stature (hip to toe); good for any rest pose.
  const reach = skeleton.joints.map(() => 0);
  skeleton.joints.forEach((joint, j) => {
    if (joint.parent >= 0) reach[j] = reach[joint.parent] + Math.hypot(...joint.offset);
  });
  return Math.max(0.1, ...reach) * 1.5;
}

function shapesOf(skeleton: Skeleton, body: Body): Map<number, Shape> {
  const shapes = new Map<number, Shape>();
  const up = (from: number, stop: number, shape: Shape) => {
    for (let j = from; j > stop && j >= 0; j = skeleton.joints[j].parent) if (!shapes.has(j)) shapes.set(j, shape);
  };
  for (const side of ['left', 'right'] as const) {
    const leg = body.legs[side];
    shapes.set(leg.hip, { from: 0.078, to: 0.056 });
    shapes.set(leg.knee, { from: 0.054, to: 0.036 });
    shapes.set(leg.ankle, { from: 0.042, to: 0.036, wide: 1.05 });
    if (leg.toe >= 0) shapes.set(leg.toe, { from: 0.034, to: 0.026, wide: 1.25, deep: 0.75 });
    const arm = body.arms[side];
    if (arm.shoulder < 0) continue;
    shapes.set(arm.shoulder, { from: 0.047, to: 0.037 });
    shapes.set(arm.elbow, { from: 0.036, to: 0.027 });
    shapes.set(arm.wrist, { from: 0.026, to: 0.022, wide: 1.3, deep: 0.7 });
    up(skeleton.joints[arm.shoulder].parent, body.chest, { from: 0.05, to: 0.047 });
  }
  shapes.set(body.head, { from: 0.068, to: 0.084, deep: 1.14 });
  up(skeleton.joints[body.head].parent, body.chest, { from: 0.045, to: 0.042 });
  shapes.set(body.chest, { from: 0.098, to: 0.075, wide: 1.42, deep: 0.95 });
  up(skeleton.joints[body.chest].parent, body.hips, { from: 0.088, to: 0.098, wide: 1.3, deep: 0.92 });
  shapes.set(body.hips, { from: 0.096, to: 0.088, wide: 1.28, deep: 0.94 });
  return shapes;
}

/** A mesh as it grows. */
export interface Buffers {
  positions: number[];
  normals: number[];
  indices: number[];
  joints: number[];
}

/** Rings from one pole to the other, between `a` and `b`. */
export function capsule(
  out: Buffers,
  joint: number,
  a: Vec3,
  b: Vec3,
  { from, to, wide = 1, deep = 1 }: Shape,
  { round, rings: capRings } = FINE,
): void {
  const axis = unit(minus(b, a));
  // The side is the world's X where the bone does not lie along it, so that `wide` means shoulders and hips.
  const guess: Vec3 = Math.abs(axis[0]) > 0.8 ? [0, 0, 1] : [1, 0, 0];
  const side = unit(across(guess, axis));
  const front = cross(axis, side);
  const first = out.positions.length / 3;
  const rings: { at: Vec3; radius: number; lean: number }[] = [];
  for (let i = 0; i <= capRings; i++) {
    const t = (-Math.PI / 2) * (1 - i / capRings);
    rings.push({ at: plus(a, times(axis, Math.sin(t) * from)), radius: Math.cos(t) * from, lean: t });
  }
  for (let i = 0; i <= capRings; i++) {
    const t = (Math.PI / 2) * (i / capRings);
    rings.push({ at: plus(b, times(axis, Math.sin(t) * to)), radius: Math.cos(t) * to, lean: t });
  }
  for (const ring of rings) {
    for (let k = 0; k < round; k++) {
      const angle = (k / round) * 2 * Math.PI;
      const c = Math.cos(angle),
        s = Math.sin(angle);
      const p = plus(ring.at, plus(times(side, c * ring.radius * wide), times(front, s * ring.radius * deep)));
      const n = unit(
        plus(times(axis, Math.sin(ring.lean)), times(plus(times(side, c / wide), times(front, s / deep)), Math.cos(ring.lean) + 1e-6)),
      );
      out.positions.push(...p);
      out.normals.push(...n);
      out.joints.push(joint);
    }
  }
  for (let r = 0; r + 1 < rings.length; r++) {
    for (let k = 0; k < round; k++) {
      const p = first + r * round + k;
      const q = first + r * round + ((k + 1) % round);
      // At a pole one of the two triangles has no area.
      if (r > 0) out.indices.push(p, q, p + round);
      if (r + 2 < rings.length) out.indices.push(q, q + round, p + round);
    }
  }
}
