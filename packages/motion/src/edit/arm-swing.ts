import { dot, exp, log, multiply, multiplyInverse, normalize } from '../math/quat';
import { bodyOf } from '../anatomy/body-of';
import { copyMotion, type Motion } from '../model/motion';

/** The swing of both arms about their mean, at the shoulders, made larger or smaller by a factor; a motion without arms as it is. */
export function swingArms(motion: Motion, factor: number): Motion {
  const body = bodyOf(motion);
  if (!body) return motion;
  const out = copyMotion(motion);
  const J = motion.skeleton.joints.length;
  for (const side of ['left', 'right'] as const) {
    const { shoulder } = body.arms[side];
    if (shoulder < 0) continue;
    const mean = [0, 0, 0, 0];
    for (let f = 0; f < motion.frames; f++) {
      const at = (f * J + shoulder) * 4;
      const sign = dot(motion.rotations, shoulder * 4, motion.rotations, at) < 0 ? -1 : 1;
      for (let k = 0; k < 4; k++) mean[k] += sign * motion.rotations[at + k];
    }
    normalize(mean, 0);
    const q = [0, 0, 0, 1];
    const away = [0, 0, 0];
    for (let f = 0; f < motion.frames; f++) {
      const at = (f * J + shoulder) * 4;
      multiplyInverse(q, 0, mean, 0, motion.rotations, at);
      log(away, 0, q, 0);
      exp(
        q,
        0,
        away.map((v) => v * factor),
        0,
      );
      multiply(out.rotations, at, mean, 0, q, 0);
    }
  }
  return out;
}
