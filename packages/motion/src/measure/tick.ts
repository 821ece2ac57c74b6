import { quantile } from '../math/statistics';
import { rotate } from '../math/quat';
import { worldMotion, type Clip } from '../model/clip';
import { moveFrames, type FloorTransform } from '../model/floor-transform';
import { forwardKinematics } from '../model/kinematics';
import { cutMotion, type Motion } from '../model/motion';

const OFF = [[0, 0, 0], [0.1, 0, 0], [0, 0.1, 0]] as const;
const LEAST = 0.0005;

/**
 * The tick of a closed loop: per joint, and on two points held 10 cm off it, how far frame 0 is from where the two frames on each
 * side predict it (by the cubic through them), over the 95th percentile of the same at that point's other frames, at
 * least 0.5 mm. The worst point counts. About 1 is what the motion itself does.
 */
export function tick(clip: Pick<Clip, 'motion' | 'travel'>): number {
  const motion = worldMotion(clip);
  const last = motion.frames - 1;
  if (last < 8) return 0;
  const wrapped = wrap(motion, clip.travel ? cycleOfTravel(clip) : cycleOfRoot(motion));
  const globals = forwardKinematics(wrapped);
  const J = globals.joints;
  const n = globals.frames;
  const point = new Float64Array(n * 3);
  const residual = new Float64Array(last);
  let worst = 0;
  for (let j = 0; j < J; j++) {
    for (const off of OFF) {
      for (let f = 0; f < n; f++) {
        rotate(point, f * 3, globals.rotations, (f * J + j) * 4, off, 0);
        for (let k = 0; k < 3; k++) point[f * 3 + k] += globals.positions[(f * J + j) * 3 + k];
      }
      for (let f = 0; f < last; f++) {
        const i = (f + 2) * 3;
        let square = 0;
        for (let k = 0; k < 3; k++) {
          const predicted = (4 * (point[i - 3 + k] + point[i + 3 + k]) - point[i - 6 + k] - point[i + 6 + k]) / 6;
          square += (point[i + k] - predicted) ** 2;
        }
        residual[f] = Math.sqrt(square);
      }
      const usual = Math.max(LEAST, quantile(residual.subarray(1), 0.95));
      worst = Math.max(worst, residual[0] / usual);
    }
  }
  return worst;
}

/** Two frames before the first and two after the last added, from the other end of the cycle. */
function wrap(motion: Motion, cycle: { forward: FloorTransform; back: FloorTransform }): Motion {
  const last = motion.frames - 1;
  const order = [last - 2, last - 1, ...Array.from({ length: last + 1 }, (_, f) => f), 1, 2];
  const joints = motion.skeleton.joints.length;
  const rotations = new Float32Array(order.length * joints * 4);
  const rootPositions = new Float32Array(order.length * 3);
  order.forEach((f, i) => {
    rotations.set(motion.rotations.subarray(f * joints * 4, (f + 1) * joints * 4), i * joints * 4);
    rootPositions.set(motion.rootPositions.subarray(f * 3, f * 3 + 3), i * 3);
  });
  const out: Motion = { ...cutMotion(motion, 0, 0), frames: order.length, rotations, rootPositions, translations: wrapTranslations(motion, order) };
  moveFrames(out, cycle.back, 0, 2);
  moveFrames(out, cycle.forward, last + 3, last + 5);
  return out;
}

function wrapTranslations(motion: Motion, order: readonly number[]): Motion['translations'] {
  return (
    motion.translations &&
    new Map([...motion.translations].map(([j, t]) => [j, Float32Array.from(order.flatMap((f) => [...t.subarray(f * 3, f * 3 + 3)]))]))
  );
}

function between(a: readonly number[], b: readonly number[]): { forward: FloorTransform; back: FloorTransform } {
  const [ax, ay, az, ah] = a;
  const [bx, by, bz, bh] = b;
  const move = (fx: number, fy: number, fz: number, tx: number, ty: number, tz: number, turn: number): FloorTransform => {
    const c = Math.cos(turn), s = Math.sin(turn);
    return { turn, x: tx - (c * fx + s * fz), z: tz - (c * fz - s * fx), y: ty - fy };
  };
  return { forward: move(ax, ay, az, bx, by, bz, bh - ah), back: move(bx, by, bz, ax, ay, az, ah - bh) };
}

function cycleOfTravel({ motion, travel }: Pick<Clip, 'motion' | 'travel'>) {
  const last = motion.frames - 1;
  const at = (f: number) => (travel ? [travel.x[f], travel.y[f], travel.z[f], travel.heading[f]] : [0, 0, 0, 0]);
  return between(at(0), at(last));
}

/** Without travel the hips' own first and last frame say how the cycle moves on. */
function cycleOfRoot(motion: Motion) {
  const joints = motion.skeleton.joints.length;
  const at = (f: number) => {
    const p = motion.rootPositions;
    const forward = [0, 0, 0];
    rotate(forward, 0, motion.rotations, f * joints * 4, [0, 0, 1], 0);
    return [p[f * 3], p[f * 3 + 1], p[f * 3 + 2], Math.atan2(forward[0], forward[2])];
  };
  return between(at(0), at(motion.frames - 1));
}
