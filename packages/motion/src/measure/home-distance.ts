import { DEGREES } from '../math/angles';
import { angleBetween, dot, fromHeading, IDENTITY, multiply, normalize } from '../math/quat';
import { homeMotion, type HomePose } from '../model/home-pose';
import { forwardKinematics } from '../model/kinematics';
import type { Skeleton } from '../model/skeleton';
import { solveFloor } from './align';
import { movePoint } from '../model/floor-transform';
import type { Groundwork } from './groundwork';

/** How far a pose is from the home pose of its set. */
export interface HomeDistance {
  /** Weighted root mean square over the joints, after the best turn and shift on the floor. */
  readonly cm: number;
  /** The joint that is turned most against its parent, and by how much. */
  readonly worstJoint: string;
  readonly worstDeg: number;
}

/**
 * A frame of a motion as a home pose: where it stands and faces is taken out.
 *
 * @example
 * homeDistance(ground, 30, homePoseOf(ground, 30)).cm < 0.01; // true
 */
export function homePoseOf({ motion, globals, headings, soles }: Groundwork, frame: number): HomePose {
  const { joints } = motion.skeleton;
  const turns: HomePose['turns'] = {};
  const q = [0, 0, 0, 1];
  joints.forEach(({ name }, j) => {
    const at = (frame * joints.length + j) * 4;
    if (j === 0) multiply(q, 0, fromHeading(-headings[frame]), 0, motion.rotations, at);
    else for (let k = 0; k < 4; k++) q[k] = motion.rotations[at + k];
    normalize(q, 0);
    const sign = dot(q, 0, IDENTITY, 0) < 0 ? -1 : 1;
    const [x, y, z, w] = q.map((v) => Number((v * sign).toFixed(6)));
    turns[name] = [x, y, z, w];
  });
  const places: NonNullable<HomePose['places']> = {};
  motion.translations?.forEach((t, j) => {
    const [x, y, z] = Array.from(t.subarray(frame * 3, frame * 3 + 3), (v) => Number(v.toFixed(6)));
    places[joints[j].name] = [x, y, z];
  });
  const moving = motion.translations && motion.translations.size > 0 ? { places } : {};
  return { ...moving, heightM: Number((globals.positions[frame * globals.joints * 3 + 1] - soles.floor).toFixed(5)), turns };
}

/** A home pose on skeletons, standing on a floor at zero: one pose is compared with many frames. */
const POSED = new WeakMap<HomePose, WeakMap<Skeleton, Posed>>();

interface Posed {
  readonly rotations: Float32Array;
  readonly positions: Float32Array;
}

function posed(pose: HomePose, skeleton: Skeleton): Posed {
  const known = POSED.get(pose) ?? new WeakMap<Skeleton, Posed>();
  POSED.set(pose, known);
  const found = known.get(skeleton);
  if (found) return found;
  const home = homeMotion(pose, skeleton, 1);
  const made = { rotations: home.rotations, positions: forwardKinematics(home).positions };
  known.set(skeleton, made);
  return made;
}

/**
 * The distance of a frame from a home pose.
 *
 * @example
 * homeDistance(ground, 60, homePoseOf(ground, 30)).cm > 1; // true
 */
export function homeDistance({ motion, globals, soles, weighted }: Groundwork, frame: number, pose: HomePose): HomeDistance {
  const { rotations, positions: goal } = posed(pose, motion.skeleton);
  const { positions, joints: J } = globals;
  const sums = { total: 0, ax: 0, az: 0, bx: 0, bz: 0, cross: 0, dot: 0 };
  weighted.joints.forEach((j, k) => {
    const w = weighted.weights[k];
    const p = (frame * J + j) * 3;
    const [px, pz, qx, qz] = [positions[p], positions[p + 2], goal[j * 3], goal[j * 3 + 2]];
    sums.total += w;
    sums.ax += w * px;
    sums.az += w * pz;
    sums.bx += w * qx;
    sums.bz += w * qz;
    sums.dot += w * (px * qx + pz * qz);
    sums.cross += w * (px * qz - pz * qx);
  });
  const over = solveFloor(sums);
  let square = 0;
  const moved = [0, 0, 0];
  weighted.joints.forEach((j, k) => {
    movePoint(moved, 0, over, goal, j * 3);
    const p = (frame * J + j) * 3;
    square +=
      weighted.weights[k] *
      ((moved[0] - positions[p]) ** 2 + (moved[1] + soles.floor - positions[p + 1]) ** 2 + (moved[2] - positions[p + 2]) ** 2);
  });
  let [worst, worstDeg] = [0, -1];
  const turned = [0, 0, 0, 1];
  motion.skeleton.joints.forEach(({ name }, j) => {
    if (!pose.turns[name]) return;
    if (j === 0) multiply(turned, 0, fromHeading(over.turn), 0, rotations, 0);
    else for (let k = 0; k < 4; k++) turned[k] = rotations[j * 4 + k];
    const deg = angleBetween(motion.rotations, (frame * J + j) * 4, turned, 0) * DEGREES;
    if (deg > worstDeg) [worst, worstDeg] = [j, deg];
  });
  return { cm: Math.sqrt(square) * 100, worstJoint: motion.skeleton.joints[worst].name, worstDeg: Math.max(0, worstDeg) };
}
