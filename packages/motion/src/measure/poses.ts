import { unwrap } from '../math/angles';
import { multiply, rotate } from '../math/quat';
import type { Body } from '../model/body';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';
import type { Groundwork } from './groundwork';

const NOBODY: Body = {
  hips: 0,
  chest: 0,
  head: 0,
  legs: { left: { hip: 0, knee: 0, ankle: 0, toe: -1 }, right: { hip: 0, knee: 0, ankle: 0, toe: -1 } },
  arms: { left: { shoulder: -1, elbow: -1, wrist: -1 }, right: { shoulder: -1, elbow: -1, wrist: -1 } },
  doubts: [],
};

/**
 * What poses are compared by where nobody's body is known: all joints alike, the facing of the first joint, no feet. What is about feet must not be
 * asked of it.
 *
 * @example
 * posesOnly(motion).contacts.left.length; // 0
 */
export function posesOnly(motion: Motion): Groundwork {
  const globals = forwardKinematics(motion);
  const joints = motion.skeleton.joints.map((_, j) => j);
  const track = new Float32Array(motion.frames * 3);
  const sole = { heel: track, ball: track, tip: track };
  return {
    motion,
    globals,
    body: NOBODY,
    soles: { floor: 0, left: sole, right: sole },
    contacts: { fps: motion.fps, floorM: 0, left: [], right: [] },
    belt: null,
    weighted: { joints, weights: joints.map(() => 1 / joints.length), parts: joints.map((j) => motion.skeleton.joints[j].name) },
    headings: facings(motion),
    isNobody: true,
  };
}

function facings({ skeleton, rotations, frames }: Motion): Float64Array {
  const J = skeleton.joints.length;
  const [x, y, z, w] = skeleton.joints[0].restRotation;
  const turn = [0, 0, 0, 1];
  const ahead = [0, 0, 1];
  const out = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    multiply(turn, 0, rotations, f * J * 4, [-x, -y, -z, w], 0);
    rotate(ahead, 0, turn, 0, [0, 0, 1], 0);
    out[f] = Math.atan2(ahead[0], ahead[2]);
  }
  return unwrap(out);
}
