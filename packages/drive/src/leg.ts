import { multiply, multiplyInverse, rotate } from './quat';
import { bendKnee } from './knee';
import type { PlayLeg } from './play-set';

/** Straighter than this share of its length no leg is made: near full stretch a millimetre is degrees of knee. */
const MOST_STRETCH = 0.9995;
/** From this share of its length on the reach is softened towards the most. */
const SOFT_FROM = 0.985;

/** As far as a leg goes when so much is asked of it; as far as it was stretched already it may be stretched again. */
export function softReach(asked: number, length: number, before: number): number {
  const most = MOST_STRETCH * length;
  const from = Math.min(most - 1e-4 * length, Math.max(SOFT_FROM * length, before));
  const room = most - from;
  return asked <= from ? asked : from + room * (1 - Math.exp(-(asked - from) / room));
}

/** The axis a knee bends about in the thigh's axes, for a leg too straight to show it: the mean over a clip's frames. */
export type KneeAxis = Float64Array;

const turn = new Float64Array(4);
const aim = new Float64Array(4);
const thigh = new Float64Array(4);
const shin = new Float64Array(4);
const v = new Float64Array(3);

/**
 * In place: an ankle put where it is wanted, the knee bent in the plane that it bends in already, the foot turned in the world as given.
 *
 * @param local rotations against the parents, four numbers a joint
 * @param place of the joints in the world, three numbers a joint
 * @param world rotations in the world
 * @param bends how the knee has been bent so far, in place; whether the foot bears, and how long ago that was, seconds
 */
export function reachWithLeg(
  local: Float32Array,
  place: Float64Array,
  world: Float64Array,
  parents: ArrayLike<number>,
  leg: PlayLeg,
  tx: number,
  ty: number,
  tz: number,
  foot: Float64Array,
  axis: KneeAxis,
  bends: Float64Array,
  bears: boolean,
  seconds: number,
): void {
  const h = leg.hip * 3,
    k = leg.knee * 3,
    a = leg.ankle * 3;
  const ux = place[k] - place[h],
    uy = place[k + 1] - place[h + 1],
    uz = place[k + 2] - place[h + 2];
  const lx = place[a] - place[k],
    ly = place[a + 1] - place[k + 1],
    lz = place[a + 2] - place[k + 2];
  const wx = tx - place[h],
    wy = ty - place[h + 1],
    wz = tz - place[h + 2];
  const upper = Math.sqrt(ux * ux + uy * uy + uz * uz);
  const lower = Math.sqrt(lx * lx + ly * ly + lz * lz);
  const asked = Math.sqrt(wx * wx + wy * wy + wz * wz);
  const before = Math.sqrt((ux + lx) ** 2 + (uy + ly) ** 2 + (uz + lz) ** 2);
  const reach = Math.max(Math.abs(upper - lower) * 1.001, softReach(asked, upper + lower, before));
  // The plane of the leg is what it shows, the more the more it is bent.
  rotate(v, 0, world, leg.hip * 4, axis[0], axis[1], axis[2]);
  const sx = uy * lz - uz * ly,
    sy = uz * lx - ux * lz,
    sz = ux * ly - uy * lx;
  const seen = Math.sqrt(sx * sx + sy * sy + sz * sz);
  const clear = Math.min(1, seen / (0.3 * upper * lower));
  // A knee that a mixture of poses bends the wrong way is bent back to the way it goes.
  const way = sx * v[0] + sy * v[1] + sz * v[2] < 0 ? -1 : 1;
  const shown = (way * clear) / (seen || 1);
  const bent = Math.PI - interior(upper, lower, before);
  const wanted = Math.PI - interior(upper, lower, reach) - bent;
  const straight = Math.PI - interior(upper, lower, MOST_STRETCH * (upper + lower)) - bent;
  const by = bent + bendKnee(bends, wanted, Math.min(wanted, straight), bears, seconds) - way * bent;
  about(turn, sx * shown + v[0] * (1 - clear), sy * shown + v[1] * (1 - clear), sz * shown + v[2] * (1 - clear), by);
  rotate(v, 0, turn, 0, lx, ly, lz);
  towards(aim, ux + v[0], uy + v[1], uz + v[2], wx, wy, wz);
  multiply(thigh, 0, aim, 0, world, leg.hip * 4);
  multiply(shin, 0, turn, 0, world, leg.knee * 4);
  multiply(shin, 0, aim, 0, shin, 0);
  const up = parents[leg.hip];
  multiplyInverse(local, leg.hip * 4, world, up * 4, thigh, 0);
  // Joints on the way, such as those that take up twist, go along with what they are on.
  const overKnee = parents[leg.knee];
  if (overKnee !== leg.hip) multiply(thigh, 0, aim, 0, world, overKnee * 4);
  multiplyInverse(local, leg.knee * 4, thigh, 0, shin, 0);
  const overAnkle = parents[leg.ankle];
  if (overAnkle !== leg.knee) {
    multiply(shin, 0, turn, 0, world, overAnkle * 4);
    multiply(shin, 0, aim, 0, shin, 0);
  }
  multiplyInverse(local, leg.ankle * 4, shin, 0, foot, 0);
}

function about(out: Float64Array, x: number, y: number, z: number, radians: number): void {
  const s = Math.sin(radians / 2) / (Math.sqrt(x * x + y * y + z * z) || 1);
  out[0] = x * s;
  out[1] = y * s;
  out[2] = z * s;
  out[3] = Math.cos(radians / 2);
}

/** The shortest turn from one direction to another. */
function towards(out: Float64Array, ax: number, ay: number, az: number, bx: number, by: number, bz: number): void {
  const x = ay * bz - az * by,
    y = az * bx - ax * bz,
    z = ax * by - ay * bx;
  const sine = Math.sqrt(x * x + y * y + z * z);
  const half = Math.atan2(sine, ax * bx + ay * by + az * bz) / 2;
  const s = sine > 1e-12 ? Math.sin(half) / sine : 0;
  out[0] = x * s;
  out[1] = y * s;
  out[2] = z * s;
  out[3] = sine > 1e-12 ? Math.cos(half) : 1;
}

const interior = (a: number, b: number, d: number): number => Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - d * d) / (2 * a * b))));
