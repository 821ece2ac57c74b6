import { multiply, multiplyInverse, rotate, type Vec3 } from '../math/quat';
import { shortestTurn, unit } from '../math/vec';
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
export function reachWithLeg(motion: Motion, globals: Globals, frame: number, leg: Leg, target: ArrayLike<number>, bend: Vec3): number {
  const { joints, positions, rotations } = globals;
  const base = frame * joints;
  const h = (base + leg.hip) * 3,
    k = (base + leg.knee) * 3,
    a = (base + leg.ankle) * 3;
  const ux = positions[k] - positions[h],
    uy = positions[k + 1] - positions[h + 1],
    uz = positions[k + 2] - positions[h + 2];
  const lx = positions[a] - positions[k],
    ly = positions[a + 1] - positions[k + 1],
    lz = positions[a + 2] - positions[k + 2];
  const wx = target[0] - positions[h],
    wy = target[1] - positions[h + 1],
    wz = target[2] - positions[h + 2];
  const upper = Math.sqrt(ux * ux + uy * uy + uz * uz);
  const lower = Math.sqrt(lx * lx + ly * ly + lz * lz);
  const asked = Math.sqrt(wx * wx + wy * wy + wz * wz);
  const before = Math.sqrt((ux + lx) ** 2 + (uy + ly) ** 2 + (uz + lz) ** 2);
  const reach = Math.max(Math.abs(upper - lower) * 1.001, softReach(asked, upper + lower, before));
  const by = interior(upper, lower, before) - interior(upper, lower, reach);
  rotate(axis, 0, rotations, (base + leg.hip) * 4, bend, 0);
  const sx = uy * lz - uz * ly,
    sy = uz * lx - ux * lz,
    sz = ux * ly - uy * lx;
  const seen = Math.sqrt(sx * sx + sy * sy + sz * sz);
  // The plane of the leg is what it shows, the more the more it is bent.
  const clear = Math.min(1, seen / (0.3 * upper * lower));
  const shown = clear / (seen || 1);
  bent[0] = sx * shown + axis[0] * (1 - clear);
  bent[1] = sy * shown + axis[1] * (1 - clear);
  bent[2] = sz * shown + axis[2] * (1 - clear);
  turnAbout(bendBy, bent, by);
  bent[0] = lx;
  bent[1] = ly;
  bent[2] = lz;
  rotate(axis, 0, bendBy, 0, bent, 0);
  turnTo(aim, ux + axis[0], uy + axis[1], uz + axis[2], wx, wy, wz);
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

const axis = new Float64Array(3);
const bent = new Float64Array(3);
const newThigh = new Float64Array(4);
const newShin = new Float64Array(4);
const bendBy = new Float64Array(4);
const aim = new Float64Array(4);

/** A turn about an axis of any length but none. */
function turnAbout(out: Float64Array, [x, y, z]: Float64Array, radians: number): void {
  const length = Math.sqrt(x * x + y * y + z * z) || 1;
  const s = Math.sin(radians / 2) / length;
  out[0] = x * s;
  out[1] = y * s;
  out[2] = z * s;
  out[3] = Math.cos(radians / 2);
}

/** The shortest turn from one direction to another. */
function turnTo(out: Float64Array, ax: number, ay: number, az: number, bx: number, by: number, bz: number): void {
  const x = ay * bz - az * by,
    y = az * bx - ax * bz,
    z = ax * by - ay * bx;
  const sine = Math.sqrt(x * x + y * y + z * z);
  const cosine = ax * bx + ay * by + az * bz;
  if (sine <= 1e-12) return out.set(shortestTurn([ax, ay, az], [bx, by, bz]));
  const half = Math.atan2(sine, cosine) / 2;
  const s = Math.sin(half) / sine;
  out[0] = x * s;
  out[1] = y * s;
  out[2] = z * s;
  out[3] = Math.cos(half);
}

/** The angle at the knee of a leg of two bones whose ends are a distance apart. */
const interior = (a: number, b: number, d: number): number => Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - d * d) / (2 * a * b))));

/** The axis about which a knee bends, in the thigh's axes: the mean over all frames, those that are bent most counting most. */
export function kneeAxis({ positions, rotations, joints, frames }: Globals, leg: Leg): Vec3 {
  let [sx, sy, sz] = [0, 0, 0];
  for (let f = 0; f < frames; f++) {
    const h = (f * joints + leg.hip) * 3,
      k = (f * joints + leg.knee) * 3,
      a = (f * joints + leg.ankle) * 3;
    const ux = positions[k] - positions[h],
      uy = positions[k + 1] - positions[h + 1],
      uz = positions[k + 2] - positions[h + 2];
    const lx = positions[a] - positions[k],
      ly = positions[a + 1] - positions[k + 1],
      lz = positions[a + 2] - positions[k + 2];
    const nx = uy * lz - uz * ly,
      ny = uz * lx - ux * lz,
      nz = ux * ly - uy * lx;
    // Turned back into the thigh's axes.
    const q = (f * joints + leg.hip) * 4;
    const x = -rotations[q],
      y = -rotations[q + 1],
      z = -rotations[q + 2],
      w = rotations[q + 3];
    const tx = 2 * (y * nz - z * ny),
      ty = 2 * (z * nx - x * nz),
      tz = 2 * (x * ny - y * nx);
    sx += nx + w * tx + y * tz - z * ty;
    sy += ny + w * ty + z * tx - x * tz;
    sz += nz + w * tz + x * ty - y * tx;
  }
  return unit([sx, sy, sz]);
}
