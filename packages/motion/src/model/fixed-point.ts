import { rotate, type Vec3 } from '../math/quat';
import type { Globals } from './kinematics';

/** A point fixed to a joint, in the joint's axes, metres. */
export interface FixedPoint {
  readonly joint: number;
  readonly local: Vec3;
}

/** A point fixed to a joint, in the world, three numbers a frame. */
export function followPoint({ frames, joints, positions, rotations }: Globals, { joint, local }: FixedPoint): Float32Array {
  const out = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    const at = f * joints + joint;
    rotate(out, f * 3, rotations, at * 4, local, 0);
    for (let k = 0; k < 3; k++) out[f * 3 + k] += positions[at * 3 + k];
  }
  return out;
}
