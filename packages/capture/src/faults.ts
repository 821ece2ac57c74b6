import { fromAxisAngle, fromHeading, multiply, type Motion } from '@lantern/motion';
import { random } from './random';

/** What a suit gets wrong, at factor 1. */
export interface Faults {
  /** Standard deviation of every joint's rotation, degrees. */
  readonly jitterDegrees: number;
  /** Standard deviation of the hips' place, metres. */
  readonly jitterMetres: number;
  /** The suit's north turns steadily, degrees a second at most. */
  readonly headingDrift: number;
  /** The floor is off by this much, up or down, metres. */
  readonly floor: number;
}

export const DEFAULT_FAULTS: Faults = { jitterDegrees: 0.12, jitterMetres: 0.0008, headingDrift: 0.12, floor: 0.02 };

/**
 * The motion as a suit would have recorded it.
 *
 * @param factor 0 is the truth, 1 the usual faults, 2 twice them
 */
export function addFaults(motion: Motion, seed: number, factor: number, faults: Faults = DEFAULT_FAULTS): Motion {
  const noise = random(seed ^ 0x5eed);
  const joints = motion.skeleton.joints.length;
  const rotations = motion.rotations.slice();
  const rootPositions = motion.rootPositions.slice();
  const drift = ((noise.next() * 2 - 1) * faults.headingDrift * factor * Math.PI) / 180 / motion.fps;
  const floor = (noise.next() < 0.5 ? -1 : 1) * faults.floor * factor;
  const jitter = (faults.jitterDegrees * factor * Math.PI) / 180;
  let x = rootPositions[0];
  let z = rootPositions[2];
  for (let f = 0; f < motion.frames; f++) {
    const turn = drift * f;
    if (f > 0) {
      // Each frame's progress is laid down in the direction the suit believes in.
      const dx = motion.rootPositions[f * 3] - motion.rootPositions[f * 3 - 3];
      const dz = motion.rootPositions[f * 3 + 2] - motion.rootPositions[f * 3 - 1];
      x += Math.cos(turn) * dx + Math.sin(turn) * dz;
      z += Math.cos(turn) * dz - Math.sin(turn) * dx;
    }
    rootPositions[f * 3] = x + faults.jitterMetres * factor * noise.normal();
    rootPositions[f * 3 + 1] += floor + faults.jitterMetres * factor * noise.normal();
    rootPositions[f * 3 + 2] = z + faults.jitterMetres * factor * noise.normal();
    for (let j = 0; j < joints; j++) {
      const at = (f * joints + j) * 4;
      const shake = fromAxisAngle([noise.normal(), noise.normal(), noise.normal()], jitter * Math.abs(noise.normal()));
      multiply(rotations, at, rotations, at, shake, 0);
      if (j === 0) multiply(rotations, at, fromHeading(turn), 0, rotations, at);
    }
  }
  return { ...motion, rotations, rootPositions };
}
