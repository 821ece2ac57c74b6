import { fromHeading, multiply } from '../math/quat';
import { invert, leading, movePoint } from '../model/floor-transform';
import { align } from './align';
import type { Groundwork } from './groundwork';
import { jointGap } from './joint-gap';

/** The two end poses of a cut over each other: `joint · 3` numbers each, metres, about the first one's hips on the floor, facing +Z. */
export interface SeamPoses {
  readonly first: Float32Array;
  readonly last: Float32Array;
  /** How far each joint is from its like, cm: of the points 10 cm off it, as in the seam's figures. */
  readonly errorCm: Float32Array;
  readonly floor: number;
}

/**
 * Brings frame `to` over frame `from` by the best alignment on the floor, and both to where one looks at them from in front.
 *
 * @example
 * seamPoses(ground, best.from, best.to) !== null; // true
 */
export function seamPoses(ground: Groundwork, from: number, to: number): SeamPoses {
  const { globals, headings, body, soles, weighted } = ground;
  const { positions, rotations, joints } = globals;
  const over = align(globals, from, to, weighted.joints, weighted.weights);
  const hips = (from * joints + body.hips) * 3;
  const seen = { ...invert(leading({ x: 0, z: 0 }, { x: positions[hips], z: positions[hips + 2] }, headings[from])), y: -soles.floor };
  const turn = fromHeading(over.turn);
  const first = new Float32Array(joints * 3);
  const last = new Float32Array(joints * 3);
  const errorCm = new Float32Array(joints);
  const moved = [0, 0, 0];
  const turned = [0, 0, 0, 1];
  for (let j = 0; j < joints; j++) {
    const [a, b] = [from * joints + j, to * joints + j];
    movePoint(moved, 0, over, positions, b * 3);
    multiply(turned, 0, turn, 0, rotations, b * 4);
    errorCm[j] = 100 * Math.sqrt(jointGap(positions, rotations, a, moved, turned, 0));
    movePoint(first, j * 3, seen, positions, a * 3);
    movePoint(last, j * 3, seen, moved, 0);
  }
  return { first, last, errorCm, floor: soles.floor };
}
