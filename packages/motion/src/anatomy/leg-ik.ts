import { fromAxisAngle, multiply, multiplyInverse, rotate, type Vec3 } from '../math/quat';
import { cross, norm, plus, shortestTurn, times, unit } from '../math/vec';
import type { Leg } from '../model/body';
import type { Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';

/** Straighter than this share of its length no leg is made: near full stretch a millimetre is degrees of knee. */
const MOST_STRETCH = 0.9995;
/** From this share of its length on the reach is softened towards the most. */
const SOFT_FROM = 0.985;

/**
 * The distance from hip to ankle that a leg of a length takes up when so much is asked of it: all of it, softened near full stretch; but as
 * far as it was stretched before it may be stretched again.
 */
export function softReach(asked: number, length: number, before = 0): number {
  const most = MOST_STRETCH * length;
  const from = Math.min(most - 1e-4 * length, Math.max(SOFT_FROM * length, before));
  const room = most - from;
  return asked <= from ? asked : from + room * (1 - Math.exp(-(asked - from) / room));
}

/**
 * Puts an ankle where it is wanted: in closed form the knee is bent or stretched in the plane in which it bends already, then the whole leg
 * is turned about the hip; the foot keeps its rotation in the world. In place, one frame.
 *
 * @param motion its local rotations are changed
 * @param globals of the motion before; not changed
 * @param target where the ankle shall be, metres
 * @param bend axis about which this knee bends, in the thigh's axes, for a leg too straight to show it
 * @returns how far from the target the ankle stays, metres: 0 unless the reach was softened
 */
export function reachWithLeg(motion: Motion, globals: Globals, frame: number, leg: Leg, target: Vec3, bend: Vec3): number {
  const { joints, positions, rotations } = globals;
  const base = frame * joints;
  const [h, k, a] = [(base + leg.hip) * 3, (base + leg.knee) * 3, (base + leg.ankle) * 3];
  const thigh: Vec3 = [positions[k] - positions[h], positions[k + 1] - positions[h + 1], positions[k + 2] - positions[h + 2]];
  const shin: Vec3 = [positions[a] - positions[k], positions[a + 1] - positions[k + 1], positions[a + 2] - positions[k + 2]];
  const wanted: Vec3 = [target[0] - positions[h], target[1] - positions[h + 1], target[2] - positions[h + 2]];
  const [upper, lower] = [norm(thigh), norm(shin)];
  const asked = norm(wanted);
  const before = norm(plus(thigh, shin));
  const reach = Math.max(Math.abs(upper - lower) * 1.001, softReach(asked, upper + lower, before));
  const by = interior(upper, lower, before) - interior(upper, lower, reach);
  rotate(axis, 0, rotations, (base + leg.hip) * 4, bend, 0);
  const seen = cross(thigh, shin);
  // The plane of the leg is what it shows, the more the more it is bent.
  const clear = Math.min(1, norm(seen) / (0.3 * upper * lower));
  const n = unit(plus(times(unit(seen), clear), times([axis[0], axis[1], axis[2]], 1 - clear)));
  const bendBy = fromAxisAngle(n, by);
  rotate(axis, 0, bendBy, 0, shin, 0);
  const aim = shortestTurn([thigh[0] + axis[0], thigh[1] + axis[1], thigh[2] + axis[2]], wanted);
  // New world rotations of thigh and shin; the foot keeps its own.
  multiply(newThigh, 0, aim, 0, rotations, (base + leg.hip) * 4);
  multiply(newShin, 0, bendBy, 0, rotations, (base + leg.knee) * 4);
  multiply(newShin, 0, aim, 0, newShin, 0);
  const { joints: all } = motion.skeleton;
  const up = all[leg.hip].parent;
  if (up < 0) motion.rotations.set(newThigh, (base + leg.hip) * 4);
  else multiplyInverse(motion.rotations, (base + leg.hip) * 4, rotations, (base + up) * 4, newThigh, 0);
  // Joints on the way, such as those that take up twist, go along with what they are on.
  const overKnee = all[leg.knee].parent;
  if (overKnee !== leg.hip) multiply(newThigh, 0, aim, 0, rotations, (base + overKnee) * 4);
  multiplyInverse(motion.rotations, (base + leg.knee) * 4, newThigh, 0, newShin, 0);
  const overAnkle = all[leg.ankle].parent;
  if (overAnkle !== leg.knee) {
    multiply(newShin, 0, bendBy, 0, rotations, (base + overAnkle) * 4);
    multiply(newShin, 0, aim, 0, newShin, 0);
  }
  multiplyInverse(motion.rotations, (base + leg.ankle) * 4, newShin, 0, rotations, (base + leg.ankle) * 4);
  return Math.max(0, asked - reach);
}

const axis = [0, 0, 0];
const newThigh = [0, 0, 0, 1];
const newShin = [0, 0, 0, 1];

/** The angle at the knee of a leg of two bones whose ends are a distance apart. */
const interior = (a: number, b: number, d: number): number => Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - d * d) / (2 * a * b))));

/** The axis about which a knee bends, in the thigh's axes: the mean over all frames, those that are bent most counting most. */
export function kneeAxis(globals: Globals, leg: Leg): Vec3 {
  const { positions, rotations, joints, frames } = globals;
  const sum = [0, 0, 0];
  const local = [0, 0, 0];
  for (let f = 0; f < frames; f++) {
    const [h, k, a] = [leg.hip, leg.knee, leg.ankle].map((j) => (f * joints + j) * 3);
    const along = (p: number, q: number): Vec3 => [
      positions[q] - positions[p],
      positions[q + 1] - positions[p + 1],
      positions[q + 2] - positions[p + 2],
    ];
    const normal = cross(along(h, k), along(k, a));
    const at = (f * joints + leg.hip) * 4;
    const back = [-rotations[at], -rotations[at + 1], -rotations[at + 2], rotations[at + 3]];
    rotate(local, 0, back, 0, normal, 0);
    for (let i = 0; i < 3; i++) sum[i] += local[i];
  }
  return unit([sum[0], sum[1], sum[2]]);
}
