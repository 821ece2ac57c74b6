import type { Motion } from './motion';
import type { Skeleton } from './skeleton';
import { poseInBlocks } from './pose-blocks';

/** World transforms: `positions[(frame · J + joint) · 3]`, `rotations[(frame · J + joint) · 4]`. */
export interface Globals {
  readonly frames: number;
  readonly joints: number;
  readonly positions: Float32Array;
  readonly rotations: Float32Array;
}

/**
 * Forward kinematics over a whole motion: about forty multiplications per joint and frame, nothing allocated in the loop.
 *
 * @param out reuse these arrays (of a motion of the same size) instead of making new ones
 *
 * @example
 * const { positions, joints } = forwardKinematics(motion);
 * positions.length === motion.frames * joints * 3; // true
 */
export function forwardKinematics(motion: Motion, out?: Globals): Globals {
  const joints = motion.skeleton.joints.length;
  const globals = out ?? {
    frames: motion.frames,
    joints,
    positions: new Float32Array(motion.frames * joints * 3),
    rotations: new Float32Array(motion.frames * joints * 4),
  };
  const { positions, rotations } = globals;
  const { frames, rotations: local, rootPositions } = motion;
  const plan = planOf(motion.skeleton);
  const moving =
    motion.translations && motion.translations.size > 0 ? motion.skeleton.joints.map((_, j) => motion.translations?.get(j)) : null;
  if (!moving && poseInBlocks(motion, plan, globals)) return globals;
  const { parents } = plan;
  const offsets = moving ? plan.offsets.slice() : plan.offsets;
  for (let f = 0; f < frames; f++) {
    const base = f * joints;
    positions[base * 3] = rootPositions[f * 3];
    positions[base * 3 + 1] = rootPositions[f * 3 + 1];
    positions[base * 3 + 2] = rootPositions[f * 3 + 2];
    rotations[base * 4] = local[base * 4];
    rotations[base * 4 + 1] = local[base * 4 + 1];
    rotations[base * 4 + 2] = local[base * 4 + 2];
    rotations[base * 4 + 3] = local[base * 4 + 3];
    if (moving) for (let j = 1; j < joints; j++) offsetsAt(offsets, j, moving[j], f);
    let o = base * 3 + 3;
    let l = base * 4 + 4;
    for (let j = 1, v = 3; j < joints; j++, v += 3, o += 3, l += 4) {
      const p = base + parents[j];
      const q = p * 4;
      const x = rotations[q],
        y = rotations[q + 1],
        z = rotations[q + 2],
        w = rotations[q + 3];
      const vx = offsets[v],
        vy = offsets[v + 1],
        vz = offsets[v + 2];
      const tx = 2 * (y * vz - z * vy),
        ty = 2 * (z * vx - x * vz),
        tz = 2 * (x * vy - y * vx);
      const r = p * 3;
      positions[o] = positions[r] + vx + w * tx + y * tz - z * ty;
      positions[o + 1] = positions[r + 1] + vy + w * ty + z * tx - x * tz;
      positions[o + 2] = positions[r + 2] + vz + w * tz + x * ty - y * tx;
      const bx = local[l],
        by = local[l + 1],
        bz = local[l + 2],
        bw = local[l + 3];
      rotations[l] = w * bx + x * bw + y * bz - z * by;
      rotations[l + 1] = w * by - x * bz + y * bw + z * bx;
      rotations[l + 2] = w * bz + x * by - y * bx + z * bw;
      rotations[l + 3] = w * bw - x * bx - y * by - z * bz;
    }
  }
  return globals;
}

interface Plan {
  readonly parents: Int32Array;
  readonly offsets: Float64Array;
}

const PLANS = new WeakMap<Skeleton, Plan>();

/** A skeleton as the loop goes through it: parents, and offsets three numbers a joint; skeletons never change once they are made. */
function planOf(skeleton: Skeleton): Plan {
  const known = PLANS.get(skeleton);
  if (known) return known;
  const { joints } = skeleton;
  const made = {
    parents: Int32Array.from(joints, ({ parent }) => parent),
    offsets: Float64Array.from(joints.flatMap(({ offset }) => [...offset])),
  };
  PLANS.set(skeleton, made);
  return made;
}

/** In place: the offset of a joint that moves against its parent, as it is in a frame. */
function offsetsAt(offsets: Float64Array, j: number, moved: Float32Array | undefined, f: number): void {
  if (!moved) return;
  for (let k = 0; k < 3; k++) offsets[j * 3 + k] = moved[f * 3 + k];
}
