import { bodyOf } from '../anatomy/body-of';
import { sidesOf } from '../anatomy/sides';
import { worldMotion, type Clip } from '../model/clip';
import { forwardKinematics } from '../model/kinematics';

/** Poses of a clip side by side as it goes by: line segments in metres, `x1 y1 x2 y2` each, told apart by side. */
export interface PoseStrip {
  readonly width: number;
  readonly height: number;
  readonly middle: readonly number[];
  readonly left: readonly number[];
  readonly right: readonly number[];
}

const POSES = 5;
/** Metres from one pose to the next on the strip. */
const APART = 0.72;
/** Bones shorter than this, metres, as those of fingers, are not seen at its size. */
const LEAST = 0.04;

/**
 * Draws a clip from its right side: ahead is to the right, each pose about its own hips.
 *
 * @example
 * poseStrip(cutClip(motion, 0, 60)).left.length % 4; // 0
 */
export function poseStrip(clip: Pick<Clip, 'motion' | 'travel'>): PoseStrip {
  const motion = worldMotion(clip);
  const { positions, joints } = forwardKinematics(motion);
  const body = bodyOf(motion);
  const sides = body && sidesOf(motion.skeleton, body);
  const [left, right] = [new Set(sides?.left.limbs), new Set(sides?.right.limbs)];
  const lines = { middle: [] as number[], left: [] as number[], right: [] as number[] };
  const heading = clip.travel ? clip.travel.heading[0] : 0;
  const ahead = [Math.sin(heading), Math.cos(heading)];
  let top = 0;
  for (let k = 0; k < POSES; k++) {
    const f = Math.round((k * (motion.frames - 1)) / POSES);
    const at = (j: number, axis: number) => positions[(f * joints + j) * 3 + axis];
    const x = (j: number) => (at(j, 0) - at(0, 0)) * ahead[0] + (at(j, 2) - at(0, 2)) * ahead[1] + (k + 0.5) * APART;
    for (let j = 1; j < joints; j++) {
      const { parent, offset } = motion.skeleton.joints[j];
      if (Math.hypot(...offset) < LEAST) continue;
      const side = left.has(j) && left.has(parent) ? 'left' : right.has(j) && right.has(parent) ? 'right' : 'middle';
      lines[side].push(...[x(parent), at(parent, 1), x(j), at(j, 1)].map(shortened));
      top = Math.max(top, at(j, 1));
    }
  }
  return { ...lines, width: shortened(POSES * APART), height: shortened(top + 0.12) };
}

/** To a millimetre: more is not seen, and strips are kept. */
const shortened = (metres: number): number => Number(metres.toFixed(3));
