import { forwardKinematics, worldMotion, type Clip } from '@lantern/motion';
import type { Markers } from './markers';

/** Poses of a clip side by side as it goes by: line segments in metres, `x1 y1 x2 y2` each, told apart by side. */
export interface Strip {
  readonly width: number;
  readonly height: number;
  readonly middle: readonly number[];
  readonly left: readonly number[];
  readonly right: readonly number[];
}

const POSES = 9;
/** Metres from one pose to the next on the strip. */
const APART = 0.62;

/** Draws a clip from its right side: ahead is to the right, each pose about its own hips. */
export function stripOf(clip: Clip, markers: Markers | null): Strip {
  const motion = worldMotion(clip);
  const { positions, joints } = forwardKinematics(motion);
  const left = new Set(markers?.left.limbs);
  const right = new Set(markers?.right.limbs);
  const lines = { middle: [] as number[], left: [] as number[], right: [] as number[] };
  const heading = clip.travel ? clip.travel.heading[0] : 0;
  const ahead = [Math.sin(heading), Math.cos(heading)];
  let top = 0;
  for (let k = 0; k < POSES; k++) {
    const f = Math.round((k * (motion.frames - 1)) / POSES);
    const at = (j: number, axis: number) => positions[(f * joints + j) * 3 + axis];
    const x = (j: number) => (at(j, 0) - at(0, 0)) * ahead[0] + (at(j, 2) - at(0, 2)) * ahead[1] + (k + 0.5) * APART;
    for (let j = 1; j < joints; j++) {
      const parent = motion.skeleton.joints[j].parent;
      const side = left.has(j) && left.has(parent) ? 'left' : right.has(j) && right.has(parent) ? 'right' : 'middle';
      lines[side].push(x(parent), at(parent, 1), x(j), at(j, 1));
      top = Math.max(top, at(j, 1));
    }
  }
  return { ...lines, width: POSES * APART, height: top + 0.12 };
}
