import { fromHeading, multiply, rotate } from '../math/quat';
import { headings } from '../measure/heading';
import { bodyOf } from '../anatomy/body-of';
import { forwardKinematics } from '../model/kinematics';
import { cutMotion, restMotion, type Motion } from '../model/motion';
import { findBody } from '../anatomy/find-body';
import type { Skeleton } from '../model/skeleton';
import type { Character } from '../character/character';
import { poseAt, turnBelow, type WorldPose } from '../character/world-pose';

/** Upright: hips over the feet and the head over the hips, each by this share of what head and feet are apart. */
const STANDS = 0.3;

/**
 * The pose in which a source is looked at and straightened: at rest when that stands, else in the most upright of some sampled frames.
 *
 * @returns the pose, and the frame it was taken from or null for the rest pose
 */
export function sourceBase(motion: Motion): { readonly pose: WorldPose; readonly frame: number | null } {
  const rest = restMotion(motion.skeleton);
  if (stands(rest)) return { pose: poseAt(rest, 0), frame: null };
  let best = 0;
  let most = -Infinity;
  const step = Math.max(1, Math.floor(motion.frames / 60));
  for (let f = 0; f < motion.frames; f += step) {
    const { positions } = forwardKinematics(cutMotion(motion, f, f));
    let [low, high] = [Infinity, -Infinity];
    for (let i = 1; i < positions.length; i += 3) {
      low = Math.min(low, positions[i]);
      high = Math.max(high, positions[i]);
    }
    if (high - low > most) {
      most = high - low;
      best = f;
    }
  }
  const pose = poseAt(motion, best);
  flattenFeet(motion, pose, best, step);
  return { pose, frame: best };
}

/** In place: feet as they are in the frame in which each is lowest, ankle and ball, for in the most upright one a foot may be in its step. */
function flattenFeet(motion: Motion, pose: WorldPose, frame: number, step: number): void {
  const body = bodyOf(motion);
  if (!body) return;
  const facing = (f: number) => headings(forwardKinematics(cutMotion(motion, f, f)), body)[0];
  for (const side of ['left', 'right'] as const) {
    const { ankle, toe } = body.legs[side];
    let [flat, least] = [frame, Infinity];
    for (let f = 0; f < motion.frames; f += step) {
      const { positions } = forwardKinematics(cutMotion(motion, f, f));
      const height = positions[ankle * 3 + 1] + (toe >= 0 ? positions[toe * 3 + 1] : 0);
      if (height < least) [flat, least] = [f, height];
    }
    const { rotations } = poseAt(motion, flat);
    const turn = fromHeading(facing(frame) - facing(flat));
    // The toes after the foot that they hang from.
    for (const joint of toe < 0 ? [ankle] : [ankle, toe]) {
      const by = [0, 0, 0, 1];
      const [x, y, z, w] = pose.rotations.subarray(joint * 4, joint * 4 + 4);
      multiply(by, 0, turn, 0, rotations, joint * 4);
      multiply(by, 0, by, 0, [-x, -y, -z, w], 0);
      turnBelow(motion.skeleton, pose, joint, by);
    }
  }
}

function stands(rest: Motion): boolean {
  const body = findBody(rest);
  if (!body) return false;
  const { positions } = forwardKinematics(rest);
  const over = (a: number, b: number) => positions[a * 3 + 1] - positions[b * 3 + 1];
  const tall = over(body.head, body.legs.left.ankle);
  return (['left', 'right'] as const).every((side) => {
    const { hip, knee, ankle } = body.legs[side];
    return over(body.head, hip) > STANDS * tall && over(hip, ankle) > STANDS * tall && over(hip, knee) > 0 && over(knee, ankle) > 0;
  });
}

/** The pose in which a character was skinned, standing as it rests. */
export function characterBase({ skeleton, skin }: Character): WorldPose {
  return bound(skeleton, skin.bindRotations);
}

function bound(skeleton: Skeleton, bind: Float64Array): WorldPose {
  const rest = restMotion(skeleton);
  const { restRotation } = skeleton.joints[0];
  const whole = [0, 0, 0, 1];
  multiply(whole, 0, restRotation, 0, [-bind[0], -bind[1], -bind[2], bind[3]], 0);
  const rotations = new Float64Array(bind.length);
  for (let j = 0; j * 4 < bind.length; j++) multiply(rotations, j * 4, whole, 0, bind, j * 4);
  return withPlaces(skeleton, rotations, rest.rootPositions);
}

/** Joints where their world rotations and their offsets put them. */
export function withPlaces(skeleton: Skeleton, rotations: Float64Array, root: ArrayLike<number>): WorldPose {
  const positions = new Float64Array((rotations.length / 4) * 3);
  const arm = [0, 0, 0];
  skeleton.joints.forEach(({ parent, offset }, j) => {
    if (parent < 0) for (let k = 0; k < 3; k++) positions[k] = root[k];
    else {
      rotate(arm, 0, rotations, parent * 4, offset, 0);
      for (let k = 0; k < 3; k++) positions[j * 3 + k] = positions[parent * 3 + k] + arm[k];
    }
  });
  return { positions, rotations };
}
