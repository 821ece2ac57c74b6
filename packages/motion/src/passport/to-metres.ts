import { fromBasis, multiply, rotate, type Quat, type Vec3 } from '../math/quat';
import { forwardKinematics } from '../model/kinematics';
import { mainJoints } from '../anatomy/main-joints';
import { cutMotion, type Motion } from '../model/motion';
import { childrenOf, scaleSkeleton, type Skeleton } from '../model/skeleton';
import type { UpAxis } from '../model/take';

const AXES: Record<UpAxis, Vec3> = {
  '+x': [1, 0, 0],
  '-x': [-1, 0, 0],
  '+y': [0, 1, 0],
  '-y': [0, -1, 0],
  '+z': [0, 0, 1],
  '-z': [0, 0, -1],
};

/**
 * Which axis of the file points up: the one along which the body is tallest and its ends stay put, towards the side of the trunk,
 * which is the branch with the most ends (a head and two arms against one foot).
 */
export function findUp(motion: Motion): UpAxis {
  const step = Math.max(1, Math.floor(motion.frames / 60));
  const joints = mainJoints(motion.skeleton);
  const [hips, chest] = trunk(motion.skeleton, joints[0]);
  const extents = [0, 0, 0];
  const above = [0, 0, 0];
  const lows: number[][] = [[], [], []];
  let frames = 0;
  for (let f = 0; f < motion.frames; f += step, frames++) {
    const { positions } = forwardKinematics(cutMotion(motion, f, f));
    for (let k = 0; k < 3; k++) {
      let low = Infinity;
      let high = -Infinity;
      for (const j of joints) {
        const v = positions[j * 3 + k];
        low = Math.min(low, v);
        high = Math.max(high, v);
      }
      above[k] += positions[chest * 3 + k] - positions[hips * 3 + k];
      extents[k] += high - low;
      lows[k].push(low);
    }
  }
  const spread = (values: readonly number[]) => {
    const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
    return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
  };
  const scores = extents.map((extent, k) => extent / frames / (Math.max(...extents) / frames / 4 + spread(lows[k])));
  const names = ['x', 'y', 'z'] as const;
  // Y wins near ties: most files have it up.
  scores[1] *= 1.25;
  const best = scores.indexOf(Math.max(...scores));
  return `${above[best] < 0 ? '-' : '+'}${names[best]}`;
}

/** The joint at which legs and trunk part, and the one at which arms and neck part: the first fork of the branch with most ends. */
function trunk(skeleton: Skeleton, top: number): [number, number] {
  const children = childrenOf(skeleton);
  const ends = skeleton.joints.map(() => 0);
  for (let j = ends.length - 1; j >= 0; j--) ends[j] = children[j].reduce((sum, child) => sum + ends[child], 0) || 1;
  const fork = (j: number) => {
    let at = j;
    while (children[at].length === 1) at = children[at][0];
    return at;
  };
  const hips = fork(top);
  const most = [...children[hips]].sort((a, b) => ends[b] - ends[a])[0];
  return [hips, most === undefined ? hips : fork(most)];
}

export interface ToMetresOptions {
  readonly metresPerUnit: number;
  readonly up: UpAxis;
  /** The rate the frames were recorded at, when the file says another. */
  readonly fps?: number;
}

/**
 * The motion of a take in metres, Y up, at its true rate. Rest pose and joint names stay as they are.
 *
 * @example
 * toMetres(take.motion, { metresPerUnit: 0.01, up: '+y' }).frames === take.motion.frames; // true
 */
export function toMetres(motion: Motion, { metresPerUnit, up, fps }: ToMetresOptions): Motion {
  const result: Motion = {
    ...cutMotion(motion, 0, motion.frames - 1),
    skeleton: scaleSkeleton(motion.skeleton, metresPerUnit),
    fps: fps ?? motion.fps,
  };
  for (let i = 0; i < result.rootPositions.length; i++) result.rootPositions[i] *= metresPerUnit;
  result.translations?.forEach((t) => {
    for (let i = 0; i < t.length; i++) t[i] *= metresPerUnit;
  });
  if (up === '+y') return result;
  const turn = turnToY(up);
  const joints = result.skeleton.joints.length;
  for (let f = 0; f < result.frames; f++) {
    multiply(result.rotations, f * joints * 4, turn, 0, result.rotations, f * joints * 4);
    rotate(result.rootPositions, f * 3, turn, 0, result.rootPositions, f * 3);
  }
  const [root, ...others] = result.skeleton.joints;
  const offset = [0, 0, 0];
  const rest = [0, 0, 0, 1];
  rotate(offset, 0, turn, 0, root.offset, 0);
  multiply(rest, 0, turn, 0, root.restRotation, 0);
  return {
    ...result,
    skeleton: {
      joints: [{ ...root, offset: [offset[0], offset[1], offset[2]], restRotation: [rest[0], rest[1], rest[2], rest[3]] }, ...others],
    },
  };
}

/** The rotation that brings `up` to +Y by turning about one axis. */
function turnToY(up: UpAxis): Quat {
  const y = AXES[up];
  const keep: Vec3 = up.endsWith('x') || up === '-y' ? [0, 0, 1] : [1, 0, 0];
  const other: Vec3 = [y[1] * keep[2] - y[2] * keep[1], y[2] * keep[0] - y[0] * keep[2], y[0] * keep[1] - y[1] * keep[0]];
  // Rows of the wanted rotation are the images of x, y, z; its inverse has them as columns.
  const q = up.endsWith('x') || up === '-y' ? fromBasis(other, y, keep) : fromBasis(keep, y, cross(keep, y));
  return [-q[0], -q[1], -q[2], q[3]];
}

const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
