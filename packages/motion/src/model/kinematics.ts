import type { Motion } from './motion';

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
  const parents = Int32Array.from(motion.skeleton.joints, (joint) => joint.parent);
  const offsets = Float64Array.from(motion.skeleton.joints.flatMap((joint) => [...joint.offset]));
  const moving = motion.skeleton.joints.map((_, j) => motion.translations?.get(j));
  const local = motion.rotations;
  const { positions, rotations } = globals;
  for (let f = 0; f < motion.frames; f++) {
    const base = f * joints;
    positions[base * 3] = motion.rootPositions[f * 3];
    positions[base * 3 + 1] = motion.rootPositions[f * 3 + 1];
    positions[base * 3 + 2] = motion.rootPositions[f * 3 + 2];
    rotations[base * 4] = local[base * 4];
    rotations[base * 4 + 1] = local[base * 4 + 1];
    rotations[base * 4 + 2] = local[base * 4 + 2];
    rotations[base * 4 + 3] = local[base * 4 + 3];
    for (let j = 1; j < joints; j++) {
      const p = base + parents[j];
      const q = p * 4;
      const x = rotations[q],
        y = rotations[q + 1],
        z = rotations[q + 2],
        w = rotations[q + 3];
      const t = moving[j];
      const vx = t ? t[f * 3] : offsets[j * 3];
      const vy = t ? t[f * 3 + 1] : offsets[j * 3 + 1];
      const vz = t ? t[f * 3 + 2] : offsets[j * 3 + 2];
      const tx = 2 * (y * vz - z * vy),
        ty = 2 * (z * vx - x * vz),
        tz = 2 * (x * vy - y * vx);
      const o = (base + j) * 3;
      positions[o] = positions[p * 3] + vx + w * tx + y * tz - z * ty;
      positions[o + 1] = positions[p * 3 + 1] + vy + w * ty + z * tx - x * tz;
      positions[o + 2] = positions[p * 3 + 2] + vz + w * tz + x * ty - y * tx;
      const l = (base + j) * 4;
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
