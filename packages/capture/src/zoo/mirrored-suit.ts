import { copyMotion, type Motion } from '@lantern/motion';
import { JOINTS } from '../figure';

/**
 * A motion of the suit in the mirror x = 0, by what the suit is and nothing else: its rest pose is symmetric and all its rest rotations are none, so
 * that the mirror image of a joint's rotation is its partner's with y and z turned round.
 */
export function mirroredSuit(motion: Motion): Motion {
  const out = copyMotion(motion);
  const J = JOINTS.length;
  const partner = JOINTS.map((name) => {
    const other = name.startsWith('Left') ? name.replace('Left', 'Right') : name.replace('Right', 'Left');
    return JOINTS.findIndex((candidate) => candidate === other);
  });
  for (let f = 0; f < motion.frames; f++) {
    out.rootPositions[f * 3] = -motion.rootPositions[f * 3];
    partner.forEach((p, j) => {
      const [from, to] = [(f * J + p) * 4, (f * J + j) * 4];
      const [x, y, z, w] = motion.rotations.subarray(from, from + 4);
      out.rotations.set([x, -y, -z, w], to);
    });
  }
  return out;
}
