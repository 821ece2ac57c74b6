import { fromAxisAngle, fromHeading, multiply, type Motion, random } from '@lantern/motion';

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
  /** The floor rises steadily, metres a second. */
  readonly floorDrift: number;
  /** The whole performer is pushed about on the floor, feet and all, at this speed at the most, metres a second. */
  readonly skate: number;
}

export const DEFAULT_FAULTS: Faults = {
  jitterDegrees: 0.12,
  jitterMetres: 0.0008,
  headingDrift: 0.12,
  floor: 0.02,
  floorDrift: 0,
  skate: 0,
};

/**
 * The motion as a suit would have recorded it.
 *
 * @param factor 0 is the truth, 1 the usual faults, 2 twice them
 */
export function addFaults(motion: Motion, seed: number, factor: number, faults: Faults = DEFAULT_FAULTS): Motion {
  const noise = random(seed ^ 0x5eed);
  const joints = motion.skeleton.joints.length;
  const drift = ((noise.next() * 2 - 1) * faults.headingDrift * factor * Math.PI) / 180;
  const floor = (noise.next() < 0.5 ? -1 : 1) * faults.floor * factor;
  const jitter = (faults.jitterDegrees * factor * Math.PI) / 180;
  const { rotations, rootPositions } = driftHeading(motion, 0, drift);
  for (let f = 0; f < motion.frames; f++) {
    // Round and round in circles of two seconds.
    const round = Math.PI * (f / motion.fps);
    rootPositions[f * 3] += (faults.skate / Math.PI) * factor * Math.sin(round);
    rootPositions[f * 3 + 2] += (faults.skate / Math.PI) * factor * (1 - Math.cos(round));
    const level = floor + (faults.floorDrift * factor * f) / motion.fps;
    for (let k = 0; k < 3; k++) rootPositions[f * 3 + k] += faults.jitterMetres * factor * noise.normal() + (k === 1 ? level : 0);
    for (let j = 0; j < joints; j++) {
      const at = (f * joints + j) * 4;
      const shake = fromAxisAngle([noise.normal(), noise.normal(), noise.normal()], jitter * Math.abs(noise.normal()));
      multiply(rotations, at, rotations, at, shake, 0);
    }
  }
  return { ...motion, rotations, rootPositions };
}

/**
 * The motion as a suit records it whose north turns steadily: each frame's progress is laid down in the direction that the suit
 * believes in.
 *
 * @param start how far the north is turned at the first frame, radians
 * @param rate radians a second from then on
 */
export function driftHeading(motion: Motion, start: number, rate: number): Motion {
  const joints = motion.skeleton.joints.length;
  const rotations = motion.rotations.slice();
  const rootPositions = motion.rootPositions.slice();
  const turnAt = (f: number) => start + (rate * f) / motion.fps;
  let x = rootPositions[0];
  let z = rootPositions[2];
  for (let f = 0; f < motion.frames; f++) {
    const turn = turnAt(f);
    if (f > 0) {
      const dx = motion.rootPositions[f * 3] - motion.rootPositions[f * 3 - 3];
      const dz = motion.rootPositions[f * 3 + 2] - motion.rootPositions[f * 3 - 1];
      x += Math.cos(turn) * dx + Math.sin(turn) * dz;
      z += Math.cos(turn) * dz - Math.sin(turn) * dx;
    }
    rootPositions[f * 3] = x;
    rootPositions[f * 3 + 2] = z;
    multiply(rotations, f * joints * 4, fromHeading(turn), 0, rotations, f * joints * 4);
  }
  return { ...motion, rotations, rootPositions };
}
