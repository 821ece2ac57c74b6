import { leading } from '../model/floor-transform';
import { movingAverage } from '../math/filter';
import { unwrap, wrapAngle } from '../math/angles';
import { rotate } from '../math/quat';
import { emptyTravel, type Travel } from '../model/travel';
import type { Motion } from '../model/motion';
import { centreOfMass } from './centre-of-mass';
import { groundwork, type Groundwork } from './groundwork';
import { eighthNearest } from './seam';
import { strideFrames } from './strides';
import { series } from '../math/series';

export interface WayOptions {
  /** What the way is that of: the hips, the centre of mass (de Leva 1996), or the mean of the feet. */
  readonly of: 'hips' | 'mass' | 'feet';
  /**
   * `even`: constant speed and turn rate (a straight line or an arc, the rest stays in the body); `stride`: averaged over a stride; `captured`:
   * as it is. `auto` is even for a loop and over a stride for everything else.
   */
  readonly smooth: 'auto' | 'even' | 'stride' | 'captured';
}

export const WAY_DEFAULTS: WayOptions = { of: 'hips', smooth: 'auto' };

/**
 * The way of a motion over the floor, with its height and heading, per frame.
 *
 * @param motion in the world
 * @param loop its last frame is its first, one cycle on
 */
export function wayOf(motion: Motion, loop: boolean, options: Partial<WayOptions> = {}): Travel {
  const { of, smooth } = { ...WAY_DEFAULTS, ...options };
  const found = groundwork(motion);
  const place = placeOf(motion, found, of);
  const heading = found ? found.headings : facingOfRoot(motion);
  const kind = smooth === 'auto' ? (loop ? 'even' : 'stride') : smooth;
  if (kind === 'even') return loop ? evenLoop(motion, place, heading) : evenPiece(place, heading, motion);
  const stride = (found && strideFrames(found.contacts)) ?? Math.min(motion.frames, motion.fps);
  return averaged(place, heading, kind === 'captured' ? 1 : loop ? motion.frames - 1 : stride, loop);
}

/** Three numbers a frame, metres. */
type Place = ArrayLike<number>;

function placeOf(motion: Motion, found: Groundwork | null, of: WayOptions['of']): Place {
  if (of === 'hips' || !found) return motion.rootPositions;
  if (of === 'mass') return centreOfMass(found);
  const { globals, body } = found;
  const out = new Float64Array(motion.frames * 3);
  for (let f = 0; f < motion.frames; f++)
    for (let k = 0; k < 3; k++) {
      const at = (j: number) => globals.positions[(f * globals.joints + j) * 3 + k];
      out[f * 3 + k] = (at(body.legs.left.ankle) + at(body.legs.right.ankle)) / 2;
    }
  return out;
}

function facingOfRoot(motion: Motion): Float64Array {
  const heading = new Float64Array(motion.frames);
  const forward = [0, 0, 0];
  const joints = motion.skeleton.joints.length;
  for (let f = 0; f < motion.frames; f++) {
    rotate(forward, 0, motion.rotations, f * joints * 4, [0, 0, 1], 0);
    heading[f] = Math.atan2(forward[0], forward[2]);
  }
  return unwrap(heading);
}

/** Turns facing into the direction of travel when that lies within 22.5° of one of the eight directions about it. */
function declaredHeading(facing: number, dx: number, dz: number, seconds: number): number {
  if (Math.hypot(dx, dz) / seconds < 0.2) return facing;
  // Round(going − facing) of an eighth; the declared heading is what that leaves.
  return facing + wrapAngle(Math.atan2(dx, dz) - eighthNearest(facing, dx, dz));
}

/** The even way of a loop: constant speed and turn rate, through the mean of the places about it. */
function evenLoop(motion: Motion, p: Place, heading: Float64Array): Travel {
  const n = motion.frames - 1;
  const turn = heading[n] - heading[0];
  const dx = p[n * 3] - p[0];
  const dz = p[n * 3 + 2] - p[2];
  const out = emptyTravel(n + 1);
  // Facing without the share of the turn, averaged over the cycle.
  let facing = 0;
  for (let f = 0; f < n; f++) facing += (heading[f] - (turn * f) / n) / n;
  // The cycle turns by `turn` about a pivot; without a turn the pivot is at infinity and the way a straight line.
  const isStraight = Math.abs(turn) < 1e-3;
  if (isStraight) {
    const declared = declaredHeading(facing, dx, dz, n / motion.fps);
    let ox = 0,
      oz = 0;
    for (let f = 0; f < n; f++) {
      ox += (p[f * 3] - (dx * f) / n) / n;
      oz += (p[f * 3 + 2] - (dz * f) / n) / n;
    }
    for (let f = 0; f <= n; f++) {
      out.x[f] = ox + (dx * f) / n;
      out.z[f] = oz + (dz * f) / n;
      out.heading[f] = declared;
    }
  } else {
    const c = Math.cos(turn),
      s = Math.sin(turn);
    // pivot = R·pivot + t, with t from p[n] = R·p[0] + t.
    const { x: tx, z: tz } = leading({ x: p[0], z: p[2] }, { x: p[n * 3], z: p[n * 3 + 2] }, turn);
    const det = (1 - c) * (1 - c) + s * s;
    const px = ((1 - c) * tx + s * tz) / det;
    const pz = ((1 - c) * tz - s * tx) / det;
    let rx = 0,
      rz = 0;
    for (let f = 0; f < n; f++) {
      const a = (-turn * f) / n;
      const x = p[f * 3] - px,
        z = p[f * 3 + 2] - pz;
      rx += (Math.cos(a) * x + Math.sin(a) * z) / n;
      rz += (Math.cos(a) * z - Math.sin(a) * x) / n;
    }
    // Direction of travel at the start of the arc: at right angles to the radius.
    const declared = declaredHeading(facing, turn * rz, -turn * rx, n / motion.fps);
    for (let f = 0; f <= n; f++) {
      const a = (turn * f) / n;
      out.x[f] = px + Math.cos(a) * rx + Math.sin(a) * rz;
      out.z[f] = pz + Math.cos(a) * rz - Math.sin(a) * rx;
      out.heading[f] = declared + a;
    }
  }
  const dy = p[n * 3 + 1] - p[1];
  for (let f = 0; f <= n; f++) out.y[f] = (dy * f) / n;
  return out;
}

/** From the first place to the last at constant speed and turn rate, on the straight line. */
function evenPiece(p: Place, heading: Float64Array, motion: Motion): Travel {
  const n = motion.frames - 1;
  const out = emptyTravel(n + 1);
  for (let f = 0; f <= n; f++) {
    const u = n > 0 ? f / n : 0;
    out.x[f] = p[0] + (p[n * 3] - p[0]) * u;
    out.z[f] = p[2] + (p[n * 3 + 2] - p[2]) * u;
    out.y[f] = (p[n * 3 + 1] - p[1]) * u;
    out.heading[f] = heading[0] + (heading[n] - heading[0]) * u;
  }
  return out;
}

/** Places and facing averaged over some frames; of a loop what is averaged comes round. */
function averaged(p: Place, heading: Float64Array, width: number, loop: boolean): Travel {
  const n = heading.length;
  const smooth = (values: Float64Array) => {
    if (width <= 1) return values;
    if (!loop) return movingAverage(values, width);
    const last = n - 1;
    const cycle = values[last] - values[0];
    const three = series(3 * last + 1, (i) => values[i % last] + Math.floor(i / last) * cycle);
    return movingAverage(three, width)
      .slice(last, 2 * last + 1)
      .map((v) => v - cycle);
  };
  const channel = (k: number) => smooth(series(n, (f) => p[f * 3 + k]));
  const y = channel(1);
  const first = y[0];
  return { x: channel(0), y: y.map((value) => value - first), z: channel(2), heading: smooth(heading) };
}
