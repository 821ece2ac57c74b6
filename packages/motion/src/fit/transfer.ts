import { multiply, multiplyInverse, rotate, slerp, type Quat, type Vec3 } from '../math/quat';
import type { Globals } from '../model/kinematics';
import { alignSigns, createMotion, type Motion } from '../model/motion';
import { firstOf, PARTS } from '../anatomy/parts';
import type { FitPlan } from './plan';
import { turnOf } from './reference';
import type { FitSettings } from './settings';

/** Levels and scales of a transfer, metres. */
export interface TransferSpace {
  /** The floor in the take, which is the target's too. */
  readonly floorM: number;
  /** Scale over the floor. */
  readonly alongScale: number;
  /** Scale of heights over the floor, and how much higher the hip sockets are on top of that: ankles are not scaled like legs. */
  readonly heightScale: number;
  readonly heightM: number;
}

/**
 * Carries a motion to the target's joints: world rotations against the reference, joint by joint, and the hip sockets' way scaled. Nothing is
 * reached for; limbs keep the source's joint angles.
 *
 * A joint's turn in the world from its reference to the frame is the same for both skeletons, whatever their local axes:
 * `Rₜ = Rₛ · Rₛ₀⁻¹ · Rₜ₀`. About sixty multiplications a joint and frame; nothing is allocated in the loop.
 *
 * @param globals of the source's motion
 */
export function transfer(plan: FitPlan, motion: Motion, globals: Globals, settings: FitSettings, space: TransferSpace): Motion {
  const { character, drives, sourceReference, targetReference, sourceBody, targetBody } = plan;
  const { joints } = character.skeleton;
  const J = joints.length;
  const S = globals.joints;
  const out = createMotion(character.skeleton, motion.fps, motion.frames);
  const world = new Float64Array(J * 4);
  const aside = offsetsOf(plan, settings);
  const back = new Float64Array(sourceReference.rotations.length);
  for (let j = 0; j * 4 < back.length; j++)
    for (let k = 0; k < 4; k++) back[j * 4 + k] = (k < 3 ? -1 : 1) * sourceReference.rotations[j * 4 + k];
  const [a, b, r] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  const turnInto = (f: number, drive: { readonly a: number; readonly b: number; readonly u: number }) => {
    multiply(a, 0, globals.rotations, (f * S + drive.a) * 4, back, drive.a * 4);
    if (drive.a === drive.b) return;
    multiply(b, 0, globals.rotations, (f * S + drive.b) * 4, back, drive.b * 4);
    slerp(a, 0, a, 0, b, 0, drive.u);
  };
  const sockets = [pathOf(plan, targetBody.legs.left.hip), pathOf(plan, targetBody.legs.right.hip)];
  const [left, right] = [sourceBody.legs.left.hip, sourceBody.legs.right.hip];
  const arm = [0, 0, 0];
  const mid = [0, 0, 0];
  const p = globals.positions;
  const moving = movingJoints(plan, motion, settings);
  const carries = carriersOf(plan);
  const still = new Float32Array(J * 4);
  drives.forEach((drive, j) => drive.kind !== 'turn' && still.set(drive.local, j * 4));
  for (let f = 0; f < motion.frames; f++) {
    const row = f * J * 4;
    out.rotations.set(still, row);
    for (let j = 0; j < J; j++) {
      const drive = drives[j];
      const up = joints[j].parent;
      if (drive.kind === 'turn') {
        if (drive.a === drive.b && !aside.has(j)) {
          carryTurn(
            out.rotations,
            row + j * 4,
            world,
            j,
            up,
            globals.rotations,
            (f * S + drive.a) * 4,
            back,
            drive.a * 4,
            targetReference.rotations,
          );
          continue;
        }
        turnInto(f, drive);
        multiply(world, j * 4, a, 0, targetReference.rotations, j * 4);
        const by = aside.get(j);
        if (by) {
          // What is turned aside takes all that hangs from it along: only its own local rotation changes.
          multiply(r, 0, a, 0, by, 0);
          multiply(r, 0, r, 0, targetReference.rotations, j * 4);
          writeLocal(out.rotations, row + j * 4, world, up, r, 0);
        } else writeLocal(out.rotations, row + j * 4, world, up, world, j * 4);
        continue;
      }
      if (!carries[j]) continue;
      if (up < 0) multiply(world, j * 4, drive.local, 0, IDENTITY, 0);
      else multiply(world, j * 4, world, up * 4, drive.local, 0);
    }
    rolls(plan, out.rotations, row);
    mid.fill(0);
    for (const path of sockets) {
      for (const j of path) {
        rotate(arm, 0, world, joints[j].parent * 4, joints[j].offset, 0);
        for (let k = 0; k < 3; k++) mid[k] += arm[k] / 2;
      }
    }
    const [l, q] = [(f * S + left) * 3, (f * S + right) * 3];
    const height = (p[l + 1] + p[q + 1]) / 2 - space.floorM;
    out.rootPositions[f * 3] = (space.alongScale * (p[l] + p[q])) / 2 - mid[0];
    out.rootPositions[f * 3 + 1] = space.floorM + space.heightScale * height + space.heightM - mid[1];
    out.rootPositions[f * 3 + 2] = (space.alongScale * (p[l + 2] + p[q + 2])) / 2 - mid[2];
    for (const { joint, from, values, scale, to } of moving) {
      // The source's movement against its own rest, as seen in the world, in the target parent's axes.
      const rest = plan.source.joints[from].offset;
      for (let k = 0; k < 3; k++) arm[k] = scale * (values[f * 3 + k] - rest[k]);
      rotate(arm, 0, globals.rotations, (f * S + plan.source.joints[from].parent) * 4, arm, 0);
      inverseInto(r, world, joints[joint].parent * 4);
      rotate(arm, 0, r, 0, arm, 0);
      for (let k = 0; k < 3; k++) to[f * 3 + k] = joints[joint].offset[k] + arm[k];
    }
  }
  alignSigns(out);
  return moving.length > 0 ? { ...out, translations: new Map(moving.map(({ joint, to }) => [joint, to])) } : out;
}

/**
 * What most joints are: one of the source's joints carried over, in one go. It is what `turnInto`, a multiplication and `writeLocal` make of it, to the
 * bit; but those are used with arrays of every kind, which costs more than their sums.
 *
 * @param out local rotations, written at o
 * @param world rotations of the target's joints in this frame, written at j, read at its parent up
 * @param from the source's rotations in the world, read at i
 * @param back what undoes its reference, read at b
 * @param reference the target's
 */
function carryTurn(
  out: Float32Array,
  o: number,
  world: Float64Array,
  j: number,
  up: number,
  from: Float32Array,
  i: number,
  back: Float64Array,
  b: number,
  reference: Float64Array,
): void {
  const r = j * 4;
  const fx = from[i],
    fy = from[i + 1],
    fz = from[i + 2],
    fw = from[i + 3];
  const bx = back[b],
    by = back[b + 1],
    bz = back[b + 2],
    bw = back[b + 3];
  const rx = reference[r],
    ry = reference[r + 1],
    rz = reference[r + 2],
    rw = reference[r + 3];
  const tx = fw * bx + fx * bw + fy * bz - fz * by;
  const ty = fw * by - fx * bz + fy * bw + fz * bx;
  const tz = fw * bz + fx * by - fy * bx + fz * bw;
  const tw = fw * bw - fx * bx - fy * by - fz * bz;
  const x = tw * rx + tx * rw + ty * rz - tz * ry;
  const y = tw * ry - tx * rz + ty * rw + tz * rx;
  const z = tw * rz + tx * ry - ty * rx + tz * rw;
  const w = tw * rw - tx * rx - ty * ry - tz * rz;
  world[r] = x;
  world[r + 1] = y;
  world[r + 2] = z;
  world[r + 3] = w;
  if (up < 0) {
    out[o] = x;
    out[o + 1] = y;
    out[o + 2] = z;
    out[o + 3] = w;
    return;
  }
  const u = up * 4;
  const ux = -world[u],
    uy = -world[u + 1],
    uz = -world[u + 2],
    uw = world[u + 3];
  out[o] = uw * x + ux * w + uy * z - uz * y;
  out[o + 1] = uw * y - ux * z + uy * w + uz * x;
  out[o + 2] = uw * z + ux * y - uy * x + uz * w;
  out[o + 3] = uw * w - ux * x - uy * y - uz * z;
}

const IDENTITY: Quat = [0, 0, 0, 1];

function writeLocal(out: Float32Array, o: number, world: Float64Array, up: number, q: ArrayLike<number>, i: number): void {
  if (up < 0) for (let k = 0; k < 4; k++) out[o + k] = q[i + k];
  else multiplyInverse(out, o, world, up * 4, q, i);
}

function inverseInto(out: number[], q: Float64Array, i: number): void {
  for (let k = 0; k < 3; k++) out[k] = -q[i + k];
  out[3] = q[i + 3];
}

/** Joints from which something hangs that is turned or whose place is asked for: of the others it is nowhere asked how they lie in the world. */
function carriersOf({ character, drives, targetBody }: FitPlan): boolean[] {
  const { joints } = character.skeleton;
  const out = joints.map(() => false);
  const { left, right } = targetBody.legs;
  drives.forEach((drive, j) => {
    if (drive.kind !== 'turn' && j !== left.hip && j !== right.hip) return;
    for (let up = joints[j].parent; up >= 0 && !out[up]; up = joints[up].parent) out[up] = true;
  });
  return out;
}

/** Joints from the first of the body down to one, without the first. */
function pathOf({ character }: FitPlan, joint: number): number[] {
  const path: number[] = [];
  for (let j = joint; j > 0; j = character.skeleton.joints[j].parent) path.unshift(j);
  return path;
}

function offsetsOf({ targetParts }: FitPlan, { offsets }: FitSettings): Map<number, Quat> {
  const out = new Map<number, Quat>();
  for (const part of PARTS) {
    const by = offsets[part];
    const joint = firstOf(targetParts.parts, part);
    if (by && joint >= 0 && by.some((v) => v !== 0)) out.set(joint, turnOf(by));
  }
  return out;
}

/** Joints that take up roll, once all their forearms and hands are in place: local rotations are read and written. */
function rolls({ drives, targetReference, character }: FitPlan, rotations: Float32Array, row: number): void {
  drives.forEach((drive, j) => {
    if (drive.kind !== 'roll') return;
    const { forearm, hand, axis, share, local } = drive;
    // How the hand is turned in the forearm against the reference; of that, what is about the bone.
    multiplyInverse(rest, 0, targetReference.rotations, forearm * 4, targetReference.rotations, hand * 4);
    for (let k = 0; k < 3; k++) rest[k] *= -1;
    multiply(turn, 0, rotations, row + hand * 4, rest, 0);
    if (character.skeleton.joints[hand].parent !== forearm) return;
    const along = turn[0] * axis[0] + turn[1] * axis[1] + turn[2] * axis[2];
    let angle = 2 * Math.atan2(along, turn[3]);
    if (angle > Math.PI) angle -= 2 * Math.PI;
    if (angle < -Math.PI) angle += 2 * Math.PI;
    const half = (share * angle) / 2;
    const s = Math.sin(half);
    turn[0] = axis[0] * s;
    turn[1] = axis[1] * s;
    turn[2] = axis[2] * s;
    turn[3] = Math.cos(half);
    multiply(rotations, row + j * 4, turn, 0, local, 0);
  });
}
const rest = [0, 0, 0, 1];
const turn = [0, 0, 0, 1];

interface Moving {
  readonly joint: number;
  readonly from: number;
  readonly values: Float32Array;
  readonly scale: number;
  readonly to: Float32Array;
}

/** Joints whose translation comes from the source. */
function movingJoints({ drives, character, source }: FitPlan, motion: Motion, { translations }: FitSettings): Moving[] {
  const length = (v: Vec3) => Math.hypot(v[0], v[1], v[2]);
  return character.skeleton.joints.flatMap((joint, j) => {
    const drive = drives[j];
    const mode = translations[joint.name] ?? 'target';
    if (mode === 'target' || drive.kind !== 'turn' || j === 0) return [];
    const values = motion.translations?.get(drive.b);
    if (!values || source.joints[drive.b].parent < 0) return [];
    const bone = length(source.joints[drive.b].offset);
    const scale = mode === 'source' || bone < 1e-6 ? 1 : length(joint.offset) / bone;
    return [{ joint: j, from: drive.b, values, scale, to: new Float32Array(motion.frames * 3) }];
  });
}
