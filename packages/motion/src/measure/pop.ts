import { quantile } from '../math/statistics';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';

/** Besides a joint itself two points so far off it, along two of its axes, are looked at, so that twist counts; metres. */
const OFF = 0.1;

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
 * @param globals of the motion, where they are known
 *
 * @example
 * popIn(motion, [100, 110], [[0, 100], [110, motion.frames]]).cm < 1; // true
 */
export function popIn(
  motion: Motion,
  [from, to]: readonly [number, number],
  usual: readonly (readonly [number, number])[],
  globals: Globals = forwardKinematics(motion),
): Pop {
  const { joints, frames } = globals;
  const within = ([a, b]: readonly [number, number]) => [Math.max(2, a), Math.max(2, Math.min(frames - 2, b))] as const;
  const [first, last] = within([from, to]);
  const spans = usual.map(within);
  const starts = [first, ...spans.map(([a]) => a)];
  const ends = [last, ...spans.map(([, b]) => b)];
  const [low, high] = [Math.min(...starts) - 2, Math.max(...ends) + 2];
  const off = new Float64Array(frames);
  const own = new Float64Array(spans.reduce((sum, [a, b]) => sum + Math.max(0, b - a), 0));
  const points = [0, 1, 2].map(() => new Float64Array(frames * 3));
  let worst: Pop = { cm: 0, frame: from, joint: 0 };
  for (let j = 0; j < joints; j++) {
    followAxes(globals, j, points, low, high);
    for (const point of points) {
      let count = 0;
      const measure = (a: number, b: number) => {
        for (let f = a; f < b; f++) off[f] = offCubic(point, f);
      };
      measure(first, last);
      for (const [a, b] of spans) {
        measure(a, b);
        for (let f = a; f < b; f++) own[count++] = off[f];
      }
      const least = count > 0 ? quantile(own, 0.95) : 0;
      for (let f = first; f < last; f++) {
        const cm = 100 * (off[f] - least);
        if (cm > worst.cm) worst = { cm, frame: f, joint: j };
      }
    }
  }
  return worst;
}

/** How far a point is from where the cubic through the two frames on either side leads, metres. */
function offCubic(point: Float64Array, frame: number): number {
  let square = 0;
  for (let i = frame * 3; i < frame * 3 + 3; i++) {
    const by = point[i] - (4 * (point[i - 3] + point[i + 3]) - point[i - 6] - point[i + 6]) / 6;
    square += by * by;
  }
  return Math.sqrt(square);
}

/** In place: a joint, and the points off it along its x and its y axis, from one frame to before another. */
function followAxes({ joints, positions, rotations }: Globals, joint: number, points: readonly Float64Array[], from: number, to: number) {
  const [at, alongX, alongY] = points;
  for (let f = from; f < to; f++) {
    const q = (f * joints + joint) * 4;
    const p = (f * joints + joint) * 3;
    const o = f * 3;
    const x = rotations[q],
      y = rotations[q + 1],
      z = rotations[q + 2],
      w = rotations[q + 3];
    at[o] = positions[p];
    at[o + 1] = positions[p + 1];
    at[o + 2] = positions[p + 2];
    alongX[o] = at[o] + OFF * (1 - 2 * (y * y + z * z));
    alongX[o + 1] = at[o + 1] + 2 * OFF * (x * y + z * w);
    alongX[o + 2] = at[o + 2] + 2 * OFF * (x * z - y * w);
    alongY[o] = at[o] + 2 * OFF * (x * y - z * w);
    alongY[o + 1] = at[o + 1] + OFF * (1 - 2 * (x * x + z * z));
    alongY[o + 2] = at[o + 2] + 2 * OFF * (y * z + x * w);
  }
}
