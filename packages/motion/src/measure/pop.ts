import { quantile } from '../math/statistics';
import { followPoint } from '../model/fixed-point';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';

/** Points of a joint that are looked at: itself, and two held 10 cm off it, so that twist counts; metres. */
const POINTS = [
  [0, 0, 0],
  [0.1, 0, 0],
  [0, 0.1, 0],
] as const;

/** A jump that the motion itself would not make. */
export interface Pop {
  readonly cm: number;
  readonly frame: number;
  readonly joint: number;
}

/**
 * The worst jump in a stretch of frames: per joint, and on two points 10 cm off it, how far it is from where the cubic through the two frames on either side
 * leads, less the 95th percentile of the same in the motions that play; never under 0.
 *
 * @param stretch frames that are looked at: the first and the first after
 * @param usual stretches that tell what the motions do by themselves
 *
 * @example
 * popIn(motion, [100, 110], [[0, 100], [110, motion.frames]]).cm < 1; // true
 */
export function popIn(motion: Motion, [from, to]: readonly [number, number], usual: readonly (readonly [number, number])[]): Pop {
  const globals = forwardKinematics(motion);
  const { joints, frames } = globals;
  const off = new Float64Array(frames);
  let worst: Pop = { cm: 0, frame: from, joint: 0 };
  for (let j = 0; j < joints; j++) {
    for (const local of POINTS) {
      const point = followPoint(globals, { joint: j, local });
      for (let f = 2; f < frames - 2; f++) {
        let square = 0;
        for (let k = 0; k < 3; k++) {
          const i = f * 3 + k;
          square += (point[i] - (4 * (point[i - 3] + point[i + 3]) - point[i - 6] - point[i + 6]) / 6) ** 2;
        }
        off[f] = Math.sqrt(square);
      }
      const own = usual.flatMap(([a, b]) => Array.from(off.subarray(Math.max(2, a), Math.min(frames - 2, b))));
      const least = own.length > 0 ? quantile(own, 0.95) : 0;
      for (let f = Math.max(2, from); f < Math.min(frames - 2, to); f++) {
        const cm = 100 * (off[f] - least);
        if (cm > worst.cm) worst = { cm, frame: f, joint: j };
      }
    }
  }
  return worst;
}
