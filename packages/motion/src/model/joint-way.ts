import { DEGREES } from '../math/angles';
import { angleBetween, multiply, rotate } from '../math/quat';
import type { Motion } from './motion';

/** Numbers a frame of a joint's way. */
export const WAY_WIDTH = 4;

/**
 * Where a joint is in every frame and how far it is turned against its parent's rest: x, y, z in metres and degrees, four numbers a
 * frame. Only the joints above it are worked out.
 *
 * @example
 * jointWay(motion, 0).length === motion.frames * WAY_WIDTH; // true
 */
export function jointWay(motion: Motion, joint: number): Float32Array {
  const { skeleton, frames } = motion;
  const J = skeleton.joints.length;
  const chain: number[] = [];
  for (let j = joint; j > 0; j = skeleton.joints[j].parent) chain.unshift(j);
  const moving = chain.map((j) => motion.translations?.get(j));
  const rest = skeleton.joints[joint].restRotation;
  const out = new Float32Array(frames * WAY_WIDTH);
  const turn = [0, 0, 0, 1];
  const arm = [0, 0, 0];
  for (let f = 0; f < frames; f++) {
    for (let k = 0; k < 4; k++) turn[k] = motion.rotations[f * J * 4 + k];
    for (let k = 0; k < 3; k++) out[f * WAY_WIDTH + k] = motion.rootPositions[f * 3 + k];
    for (let i = 0; i < chain.length; i++) {
      const t = moving[i];
      if (t) for (let k = 0; k < 3; k++) arm[k] = t[f * 3 + k];
      rotate(arm, 0, turn, 0, t ? arm : skeleton.joints[chain[i]].offset, 0);
      for (let k = 0; k < 3; k++) out[f * WAY_WIDTH + k] += arm[k];
      multiply(turn, 0, turn, 0, motion.rotations, (f * J + chain[i]) * 4);
    }
    out[f * WAY_WIDTH + 3] = angleBetween(motion.rotations, (f * J + joint) * 4, rest, 0) * DEGREES;
  }
  return out;
}
