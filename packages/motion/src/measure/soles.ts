import { median, quantile } from '../math/statistics';
import { IDENTITY, multiplyInverse, rotate } from '../math/quat';
import type { Body, Leg, Side } from '../model/body';
import { followPoint, type FixedPoint } from '../model/fixed-point';
import type { Globals } from '../model/kinematics';
import { legLength } from './leg-length';
import type { Motion } from '../model/motion';
import type { SolePoints } from '../anatomy/sole-points';
import { trackOf } from '../model/track';

/** Points on the sole of one foot over time, `frame · 3` numbers each, metres. */
export interface SoleTracks {
  readonly heel: Float32Array;
  readonly ball: Float32Array;
  readonly tip: Float32Array;
}

export interface Soles {
  /** The level of the floor, metres. */
  readonly floor: number;
  readonly left: SoleTracks;
  readonly right: SoleTracks;
  /** The same points as they are fixed to the foot, where they were estimated. */
  readonly points?: Readonly<Record<Side, SolePoints>>;
}

/**
 * Estimates where the soles are from ankle, ball and toe tip in the frames in which the foot is flat and low, and
 * follows heel, ball and tip through the motion. The floor is the median level of the soles in those frames, both feet
 * together: that of the lowest foot point where it lies about as far under the ankle as a sole does, else, as in captures
 * whose feet are joints and nothing under them, so far under ankle and ball as people's soles are.
 *
 * @param globals forward kinematics of the motion (metres, Y up)
 */
export function soles(motion: Motion, globals: Globals, body: Body): Soles {
  const flat = { left: flatFrames(globals, body.legs.left, motion.fps), right: flatFrames(globals, body.legs.right, motion.fps) };
  const stature = legLength(globals, body) / LEG_SHARE;
  const lowest = (side: Side) => flat[side].map((f) => soleLevel(motion, globals, body.legs[side], f, stature));
  const floor = median([...lowest('left'), ...lowest('right')]);
  const found = (side: Side) => solePoints(motion, globals, body, side, flat[side], median(lowest(side)));
  const points = { left: found('left'), right: found('right') };
  const track = ({ heel, ball, tip }: SolePoints): SoleTracks => ({
    heel: followPoint(globals, heel),
    ball: followPoint(globals, ball),
    tip: followPoint(globals, tip),
  });
  return { floor, left: track(points.left), right: track(points.right), points };
}

/** Legs, ankles and balls of people as shares of the stature, the latter two over the sole (Winter, 2009, and a shoe's sole). */
const LEG_SHARE = 0.491;
const ANKLE_SHARE = 0.048;
const BALL_SHARE = 0.0125;
/** A foot point at least this share of an ankle's height below the ankle is on the sole. */
const ON_SOLE = 0.75;

/** The level of the sole under a foot that is flat. */
function soleLevel(motion: Motion, globals: Globals, leg: Leg, f: number, stature: number): number {
  const low = lowestOfFoot(motion, globals, leg, f);
  const height = (j: number) => globals.positions[(f * globals.joints + j) * 3 + 1];
  const ankle = height(leg.ankle);
  if (ankle - low >= ON_SOLE * ANKLE_SHARE * stature) return low;
  const underAnkle = ankle - ANKLE_SHARE * stature;
  return leg.toe < 0 ? underAnkle : (underAnkle + height(leg.toe) - BALL_SHARE * stature) / 2;
}

/**
 * Frames in which ankle and ball are both near the lowest they come to (a low quantile, so that a spike does not count). Where the foot is quick in
 * them, it is never flat while it bears, as in a sprint: then those of the frames in which it is slow.
 */
function flatFrames(globals: Globals, leg: Leg, fps: number): number[] {
  const { frames } = globals;
  const ball = leg.toe >= 0 ? leg.toe : leg.ankle;
  const heights = (j: number) => trackOf(globals, j, 1);
  const [ankle, toe] = [heights(leg.ankle), heights(ball)];
  const all = Array.from({ length: frames }, (_, f) => f);
  const speed = (f: number) => speedAt(globals, ball, f, fps);
  const lowest = lowFrames(all, ankle, toe);
  if (frames < 8 || median(lowest.map(speed)) < SLOW) return lowest;
  const slow = all.filter((f) => speed(f) < SLOW);
  return slow.length >= 3 ? lowFrames(slow, ankle, toe) : lowest;
}

/** A ball that rests is slower than this, metres a second. */
const SLOW = 0.7;

function lowFrames(frames: readonly number[], ankle: Float64Array, toe: Float64Array): number[] {
  const low = (values: Float64Array) =>
    quantile(
      frames.map((f) => values[f]),
      0.04,
    );
  const [ankleLow, toeLow] = [low(ankle), low(toe)];
  for (const margin of [0.012, 0.02, 0.04, 0.08]) {
    const found = frames.filter((f) => ankle[f] <= ankleLow + margin && toe[f] <= toeLow + margin);
    if (found.length >= Math.max(1, frames.length * 0.03)) return found;
  }
  return [...frames].sort((a, b) => ankle[a] + toe[a] - ankle[b] - toe[b]).slice(0, 1);
}

function speedAt({ positions, joints, frames }: Globals, joint: number, f: number, fps: number): number {
  const [a, b] = [(Math.max(0, f - 1) * joints + joint) * 3, (Math.min(frames - 1, f + 1) * joints + joint) * 3];
  const x = positions[b] - positions[a],
    y = positions[b + 1] - positions[a + 1],
    z = positions[b + 2] - positions[a + 2];
  const way = Math.sqrt(x * x + y * y + z * z);
  return (way * fps * joints * 3) / Math.max(1, b - a);
}

function lowestOfFoot(motion: Motion, globals: Globals, leg: Leg, f: number): number {
  const tip = [0, 0, 0];
  let low = Infinity;
  for (const j of [leg.ankle, leg.toe]) {
    if (j < 0) continue;
    const at = f * globals.joints + j;
    low = Math.min(low, globals.positions[at * 3 + 1]);
    for (const site of motion.skeleton.joints[j].endSites) {
      rotate(tip, 0, globals.rotations, at * 4, site, 0);
      low = Math.min(low, globals.positions[at * 3 + 1] + tip[1]);
    }
  }
  return low;
}

/** Heel, ball and tip fixed to ankle and toe joints, averaged over the flat frames. */
function solePoints(motion: Motion, globals: Globals, body: Body, side: Side, flat: readonly number[], level: number): SolePoints {
  const leg = body.legs[side];
  const { positions, rotations, joints } = globals;
  const shin = Math.hypot(...motion.skeleton.joints[leg.ankle].offset);
  const tipSite = leg.toe >= 0 ? motion.skeleton.joints[leg.toe].endSites[0] : motion.skeleton.joints[leg.ankle].endSites[0];
  const sums = { heel: [0, 0, 0], ball: [0, 0, 0], tip: [0, 0, 0] };
  const ballJoint = leg.toe >= 0 ? leg.toe : leg.ankle;
  const world = [0, 0, 0];
  const local = [0, 0, 0, 0];
  const add = (sum: number[], joint: number, f: number, x: number, z: number) => {
    const at = f * joints + joint;
    const v = [x - positions[at * 3], level - positions[at * 3 + 1], z - positions[at * 3 + 2]];
    // Into the joint's own axes: the inverse rotation.
    multiplyInverse(local, 0, rotations, at * 4, IDENTITY, 0);
    rotate(world, 0, local, 0, v, 0);
    for (let k = 0; k < 3; k++) sum[k] += world[k] / flat.length;
  };
  for (const f of flat) {
    const a = (f * joints + leg.ankle) * 3;
    const ax = positions[a],
      az = positions[a + 2];
    let dx: number, dz: number;
    if (leg.toe >= 0) {
      const t = (f * joints + leg.toe) * 3;
      dx = positions[t] - ax;
      dz = positions[t + 2] - az;
    } else {
      // No ball: the foot points where the hips face, 0.35 of the shin's length ahead.
      const l = (f * joints + body.legs.left.hip) * 3,
        r = (f * joints + body.legs.right.hip) * 3;
      const lx = positions[l] - positions[r],
        lz = positions[l + 2] - positions[r + 2];
      const n = Math.hypot(lx, lz) || 1;
      dx = (-lz / n) * 0.35 * shin;
      dz = (lx / n) * 0.35 * shin;
    }
    add(sums.heel, leg.ankle, f, ax - 0.33 * dx, az - 0.33 * dz);
    add(sums.ball, ballJoint, f, ax + dx, az + dz);
    if (tipSite) {
      const at = f * joints + ballJoint;
      rotate(world, 0, rotations, at * 4, tipSite, 0);
      add(sums.tip, ballJoint, f, positions[at * 3] + world[0], positions[at * 3 + 2] + world[2]);
    } else {
      add(sums.tip, ballJoint, f, ax + 1.4 * dx, az + 1.4 * dz);
    }
  }
  const fixed = (joint: number, [x, y, z]: readonly number[]): FixedPoint => ({ joint, local: [x, y, z] });
  return { heel: fixed(leg.ankle, sums.heel), ball: fixed(ballJoint, sums.ball), tip: fixed(ballJoint, sums.tip) };
}
