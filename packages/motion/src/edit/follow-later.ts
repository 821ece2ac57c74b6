import { multiplyInverse, slerp } from '../math/quat';
import { smoothStep5 } from '../math/smooth';
import { forwardKinematics } from '../model/kinematics';
import { copyMotion, type Motion } from '../model/motion';
import { series } from '../math/series';

/** A joint that follows later: by so many frames, whole or between two. */
export interface Later {
  readonly joint: number;
  readonly frames: number;
}

/**
 * Lets joints be turned in the world as they were some frames before; where they are goes on as their parents go. What hangs from them goes along.
 *
 * @param motion in the world
 * @param chain the joints, each before those that hang from it
 * @param before the frames before the first that are known, in the same motion: without any the delay grows from nothing at the beginning
 */
export function followLater(motion: Motion, chain: readonly Later[], before = 0): Motion {
  const out = copyMotion(motion);
  const joints = motion.skeleton.joints;
  const J = joints.length;
  const { rotations } = forwardKinematics(motion);
  const chained = new Map(chain.map((own) => [own.joint, own]));
  // New rotations in the world of the chain and of what is right above and below it.
  const world = rotations.slice();
  const last = chain.reduce((most, own) => Math.max(most, own.frames), 0);
  for (let f = 0; f < motion.frames; f++) {
    // Where nothing is known of before, nobody can be late at once.
    const share = before >= last ? 1 : smoothStep5(Math.min(1, f / Math.max(1, 3 * last)));
    for (let j = 0; j < J; j++) {
      const at = (f * J + j) * 4;
      const own = chained.get(j);
      const up = joints[j].parent;
      if (own) {
        const then = Math.max(0, f - share * own.frames);
        const whole = Math.floor(then);
        slerp(world, at, rotations, (whole * J + j) * 4, rotations, (Math.min(motion.frames - 1, whole + 1) * J + j) * 4, then - whole);
        multiplyInverse(out.rotations, at, world, (f * J + up) * 4, world, at);
      } else if (up >= 0 && isBelow(joints, j, chained)) {
        // It keeps its place against what it hangs from, and goes along in the world.
        turnAlong(world, at, (f * J + up) * 4, motion.rotations);
      }
    }
  }
  return out;
}

function isBelow(joints: Motion['skeleton']['joints'], joint: number, chain: ReadonlyMap<number, Later>): boolean {
  for (let j = joints[joint].parent; j >= 0; j = joints[j].parent) if (chain.has(j)) return true;
  return false;
}

function turnAlong(world: Float32Array, at: number, up: number, local: Float32Array): void {
  const [ax, ay, az, aw] = world.subarray(up, up + 4);
  const [bx, by, bz, bw] = local.subarray(at, at + 4);
  world[at] = aw * bx + ax * bw + ay * bz - az * by;
  world[at + 1] = aw * by - ax * bz + ay * bw + az * bx;
  world[at + 2] = aw * bz + ax * by - ay * bx + az * bw;
  world[at + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** So much of the turning about an instant is compared, frames to both sides. */
const MOST_LAG = 40;

/**
 * How many frames later a joint turns in one motion than in another, by the peak of the cross-correlation of their angular speeds in the world, between
 * frames by a parabola; 0 where it does not turn.
 *
 * @param shown frames of the motions that count, first and first after
 */
export function lagOf(before: Motion, after: Motion, joint: number, [from, to]: readonly [number, number]): number {
  const [a, b] = [before, after].map((motion) => speeds(motion, joint, from, to));
  const most = Math.min(MOST_LAG, Math.floor(a.length / 3));
  const mean = (values: Float64Array) => values.reduce((sum, v) => sum + v, 0) / values.length;
  const [ma, mb] = [mean(a), mean(b)];
  const alike = (lag: number) => {
    let [sum, aa, bb] = [0, 0, 0];
    for (let f = Math.max(0, lag); f < Math.min(a.length, a.length + lag); f++) {
      const [x, y] = [a[f - lag] - ma, b[f] - mb];
      sum += x * y;
      aa += x * x;
      bb += y * y;
    }
    return aa > 0 && bb > 0 ? sum / Math.sqrt(aa * bb) : 0;
  };
  let best = 0;
  for (let lag = -most; lag <= most; lag++) if (alike(lag) > alike(best) + 1e-12) best = lag;
  const [l, m, r] = [alike(best - 1), alike(best), alike(best + 1)];
  const bend = l - 2 * m + r;
  return bend < -1e-12 ? best + Math.max(-0.5, Math.min(0.5, (l - r) / (2 * bend))) : best;
}

function speeds(motion: Motion, joint: number, from: number, to: number): Float64Array {
  const { rotations, joints } = forwardKinematics(motion);
  return series(Math.max(1, to - from - 1), (i) => {
    const [p, q] = [((from + i) * joints + joint) * 4, ((from + i + 1) * joints + joint) * 4];
    let cos = 0;
    for (let k = 0; k < 4; k++) cos += rotations[p + k] * rotations[q + k];
    return Math.sqrt(Math.max(0, 8 * (1 - Math.abs(cos))));
  });
}
