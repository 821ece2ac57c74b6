import { fromAxisAngle, multiply, multiplyInverse, rotate, type Vec3 } from '../math/quat';
import type { Leg } from './body';
import type { Globals } from './kinematics';
import type { Motion } from './motion';

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
  const { joints } = globals;
  const point = (j: number): Vec3 => {
    const o = (frame * joints + j) * 3;
    return [globals.positions[o], globals.positions[o + 1], globals.positions[o + 2]];
  };
  const [hip, knee, ankle] = [point(leg.hip), point(leg.knee), point(leg.ankle)];
  const thigh = minus(knee, hip);
  const shin = minus(ankle, knee);
  const wanted = minus(target, hip);
  const [a, b] = [length(thigh), length(shin)];
  const asked = length(wanted);
  const before = length(minus(ankle, hip));
  const reach = Math.max(Math.abs(a - b) * 1.001, softReach(asked, a + b, before));
  const interior = (d: number) => Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - d * d) / (2 * a * b))));
  const by = interior(before) - interior(reach);
  const axis = [0, 0, 0];
  rotate(axis, 0, globals.rotations, (frame * joints + leg.hip) * 4, bend, 0);
  const seen = cross(thigh, shin);
  // The plane of the leg is what it shows, the more the more it is bent.
  const clear = Math.min(1, length(seen) / (0.3 * a * b));
  const n = unit(plus(scaled(unit(seen), clear), scaled([axis[0], axis[1], axis[2]], 1 - clear)));
  const bendBy = fromAxisAngle(n, by);
  const bent = plus(thigh, turned(bendBy, shin));
  const aim = between(bent, wanted);
  // New world rotations of thigh and shin; the foot keeps its own.
  const q = (j: number) => [0, 1, 2, 3].map((k) => globals.rotations[(frame * joints + j) * 4 + k]);
  const newThigh = [0, 0, 0, 1];
  const newShin = [0, 0, 0, 1];
  multiply(newThigh, 0, aim, 0, q(leg.hip), 0);
  multiply(newShin, 0, bendBy, 0, q(leg.knee), 0);
  multiply(newShin, 0, aim, 0, newShin, 0);
  const setLocal = (j: number, parent: ArrayLike<number>, world: ArrayLike<number>) => {
    const local = [0, 0, 0, 1];
    multiplyInverse(local, 0, parent, 0, world, 0);
    motion.rotations.set(local, (frame * joints + j) * 4);
  };
  const up = motion.skeleton.joints[leg.hip].parent;
  setLocal(leg.hip, up < 0 ? [0, 0, 0, 1] : q(up), newThigh);
  setLocal(leg.knee, newThigh, newShin);
  setLocal(leg.ankle, newShin, q(leg.ankle));
  return Math.max(0, asked - reach);
}

const plus = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const scaled = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
const length = (a: Vec3): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
const unit = (a: Vec3): Vec3 => scaled(a, 1 / (length(a) || 1));
const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

function turned(q: ArrayLike<number>, v: Vec3): Vec3 {
  const out = [0, 0, 0];
  rotate(out, 0, q, 0, v, 0);
  return [out[0], out[1], out[2]];
}

/** The shortest turn from one direction to another. */
function between(a: Vec3, b: Vec3): [number, number, number, number] {
  const axis = cross(a, b);
  const sine = length(axis);
  const cosine = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  return sine < 1e-12 ? [0, 0, 0, 1] : fromAxisAngle(unit(axis), Math.atan2(sine, cosine));
}

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
