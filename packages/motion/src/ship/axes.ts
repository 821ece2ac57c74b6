import { fromAxisAngle, multiply, rotate } from '../math/quat';
import { copyMotion, type Motion } from '../model/motion';

/**
 * A motion with Z up in place of Y, for files that leave the axis open: what was up goes along Z, and what was ahead along −Y.
 */
export function uprightZ(motion: Motion): Motion {
  const turn = fromAxisAngle([1, 0, 0], Math.PI / 2);
  const out = copyMotion(motion);
  const J = motion.skeleton.joints.length;
  for (let f = 0; f < motion.frames; f++) {
    const [x, y, z] = motion.rootPositions.subarray(f * 3, f * 3 + 3);
    out.rootPositions.set([x, -z, y], f * 3);
    multiply(out.rotations, f * J * 4, turn, 0, motion.rotations, f * J * 4);
  }
  const [hips, ...others] = motion.skeleton.joints;
  const [restRotation, offset] = [
    [0, 0, 0, 1],
    [0, 0, 0],
  ];
  multiply(restRotation, 0, turn, 0, hips.restRotation, 0);
  rotate(offset, 0, turn, 0, hips.offset, 0);
  const [x, y, z, w] = restRotation;
  const turned = { ...hips, offset: [offset[0], offset[1], offset[2]] as const, restRotation: [x, y, z, w] as const };
  return { ...out, skeleton: { joints: [turned, ...others] } };
}
