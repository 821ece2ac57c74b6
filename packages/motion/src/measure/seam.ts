import { DEGREES } from '../math/angles';
import { angleBetween, fromHeading, multiply } from '../math/quat';
import { align } from './align';
import { movePoint, type FloorTransform } from '../model/floor-transform';
import type { Groundwork } from './groundwork';
import { jointGap } from './joint-gap';

/** How well a cycle's end meets its beginning. */
export interface Seam {
  readonly poseCm: number;
  readonly worstJoint: string;
  readonly worstCm: number;
  /** Rotation of the joint that is turned most, degrees. */
  readonly worstDeg: number;
  readonly velocityCmS: number;
  readonly headingDeg: number;
  readonly heightCm: number;
  readonly driftCm: number;
}

/**
 * The seam of a candidate cycle: frame `to` against frame `from` after the best alignment on the floor. Pose is the weighted RMS
 * over points 10 cm off each joint; velocity the weighted RMS difference of central-difference velocities.
 *
 * Costs about 0.1 ms: it is called for every movement of the pointer.
 *
 * @example
 * seam(ground, best.from, best.to).poseCm.toFixed(2) === best.seam.poseCm.toFixed(2); // true
 */
export function seam(ground: Groundwork, from: number, to: number): Seam {
  const { joints, weights } = ground.weighted;
  return seamAligned(ground, from, to, align(ground.globals, from, to, joints, weights));
}

/** The same with the transform from the last frame to the first given: a finished clip has its own. */
export function seamAligned(ground: Groundwork, from: number, to: number, transform: FloorTransform): Seam {
  const { globals, motion, headings } = ground;
  const { positions, rotations, joints: J, frames } = globals;
  const weightOf = new Float64Array(J).fill(0.1 / J);
  ground.weighted.joints.forEach((j, k) => (weightOf[j] += ground.weighted.weights[k]));
  const turn = fromHeading(transform.turn);
  const turned = [0, 0, 0, 1];
  const moved = [0, 0, 0];
  const c = Math.cos(transform.turn);
  const s = Math.sin(transform.turn);
  let sum = 0,
    total = 0,
    worst = -1,
    worstJoint = 0,
    worstAngle = 0,
    velocitySum = 0,
    velocityTotal = 0;
  const central = (f: number, j: number, k: number) => {
    const a = Math.max(0, f - 1);
    const b = Math.min(frames - 1, f + 1);
    return b > a ? ((positions[(b * J + j) * 3 + k] - positions[(a * J + j) * 3 + k]) * motion.fps) / (b - a) : 0;
  };
  for (let j = 0; j < J; j++) {
    const a = from * J + j;
    const b = to * J + j;
    multiply(turned, 0, turn, 0, rotations, b * 4);
    movePoint(moved, 0, transform, positions, b * 3);
    const square = jointGap(positions, rotations, a, moved, turned, 0);
    sum += weightOf[j] * square;
    total += weightOf[j];
    if (square > worst) {
      worst = square;
      worstJoint = j;
    }
    worstAngle = Math.max(worstAngle, angleBetween(rotations, a * 4, turned, 0));
    const vx = central(to, j, 0),
      vz = central(to, j, 2);
    const dv =
      (c * vx + s * vz - central(from, j, 0)) ** 2 +
      (central(to, j, 1) - central(from, j, 1)) ** 2 +
      (c * vz - s * vx - central(from, j, 2)) ** 2;
    velocitySum += weightOf[j] * dv;
    velocityTotal += weightOf[j];
  }
  const hips = ground.body.hips;
  const at = (f: number, k: number) => positions[(f * J + hips) * 3 + k];
  return {
    poseCm: Math.sqrt(sum / total) * 100,
    worstJoint: motion.skeleton.joints[worstJoint].name,
    worstCm: Math.sqrt(Math.max(0, worst)) * 100,
    worstDeg: worstAngle * DEGREES,
    velocityCmS: Math.sqrt(velocitySum / velocityTotal) * 100,
    headingDeg: -transform.turn * DEGREES,
    heightCm: (at(to, 1) + (transform.y ?? 0) - at(from, 1)) * 100,
    driftCm: drift(at(to, 0) - at(from, 0), at(to, 2) - at(from, 2), headings, from, to) * 100,
  };
}

/** Displacement at right angles to the direction of travel, from the mean facing; metres, positive to the left of it. */
function drift(dx: number, dz: number, headings: Float64Array, from: number, to: number): number {
  let x = 0,
    z = 0;
  for (let f = from; f < Math.max(to, from + 1); f++) {
    x += Math.sin(headings[f]);
    z += Math.cos(headings[f]);
  }
  return crosswise(dx, dz, Math.atan2(x, z));
}

/** Displacement at right angles to that of the eight directions about a heading that lies nearest to it. */
export function crosswise(dx: number, dz: number, heading: number): number {
  if (Math.hypot(dx, dz) < 1e-9) return 0;
  const travel = eighthNearest(heading, dx, dz);
  return dx * Math.cos(travel) - dz * Math.sin(travel);
}

/** That of the eight directions about a heading that lies nearest to a displacement, radians. */
export function eighthNearest(heading: number, dx: number, dz: number): number {
  const eighth = Math.PI / 4;
  return heading + Math.round((Math.atan2(dx, dz) - heading) / eighth) * eighth;
}
