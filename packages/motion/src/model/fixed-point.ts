import type { Vec3 } from '../math/quat';
import type { Globals } from './kinematics';

/** A point fixed to a joint, in the joint's axes, metres. */
export interface FixedPoint {
  readonly joint: number;
  readonly local: Vec3;
}

/** A point fixed to a joint, in the world, three numbers a frame. */
export function followPoint({ frames, joints, positions, rotations }: Globals, { joint, local: [vx, vy, vz] }: FixedPoint): Float32Array {
  const out = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    const at = f * joints + joint;
    const [q, p, o] = [at * 4, at * 3, f * 3];
    const x = rotations[q],
      y = rotations[q + 1],
      z = rotations[q + 2],
      w = rotations[q + 3];
    const tx = 2 * (y * vz - z * vy),
      ty = 2 * (z * vx - x * vz),
      tz = 2 * (x * vy - y * vx);
    // The turned point is rounded before it is put to its place, as it is where it is followed frame by frame.
    out[o] = vx + w * tx + y * tz - z * ty;
    out[o + 1] = vy + w * ty + z * tx - x * tz;
    out[o + 2] = vz + w * tz + x * ty - y * tx;
    for (let k = 0; k < 3; k++) out[o + k] += positions[p + k];
  }
  return out;
}
