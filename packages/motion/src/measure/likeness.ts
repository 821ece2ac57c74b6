import { movePoint } from '../model/floor-transform';
import { solveFloor } from './align';
import type { Body } from '../model/body';
import type { Globals } from '../model/kinematics';
import { weightedJoints } from './weights';

/** How far a body is from the one that it was made of, pose by pose. */
export interface Likeness {
  readonly medianCm: number;
  /** The greatest distance of a joint, what it is in the body, and the frame. */
  readonly worstCm: number;
  readonly worstPart: string;
  readonly worstFrame: number;
}

/** A motion whose joints are known as parts of a body. */
export interface Seen {
  readonly globals: Globals;
  readonly body: Body;
}

/**
 * How like two motions are apart from where they go: in every frame the main joints of the one are laid over those of the other by a turn and a
 * shift on the floor, heights against the hips', and their distances are taken.
 *
 * @param source lengths of it are multiplied by `scale` first: legs of the other over its own
 * @param frames for each frame of `result` that of the source, rounded; what has none is left out
 * @returns centimetres; null when no frame can be compared
 *
 * @example
 * likeness(ground, ground, (frame) => frame).worstCm; // 0
 */
export function likeness(result: Seen, source: Seen, frames: (frame: number) => number | null, scale = 1): Likeness | null {
  const own = weightedJoints(result.body);
  const other = weightedJoints(source.body);
  const pairs = own.parts.flatMap((part, i) => {
    const k = other.parts.indexOf(part);
    return k < 0 || part === 'chest' ? [] : [{ part, a: own.joints[i], b: other.joints[k], weight: own.weights[i] }];
  });
  const [p, q] = [result.globals, source.globals];
  const distances: number[] = [];
  let worst = { worstCm: -1, worstPart: '', worstFrame: 0 };
  for (let f = 0; f < p.frames; f++) {
    const from = frames(f);
    if (from === null || from < 0 || from >= q.frames) continue;
    const a = (k: number, joint: number) => p.positions[(f * p.joints + joint) * 3 + k];
    const b = (k: number, joint: number) => scale * q.positions[(from * q.joints + joint) * 3 + k];
    const sums = { total: 0, ax: 0, az: 0, bx: 0, bz: 0, cross: 0, dot: 0 };
    for (const { a: i, b: j, weight: w } of pairs) {
      const [ax, az, bx, bz] = [a(0, i), a(2, i), b(0, j), b(2, j)];
      sums.total += w;
      sums.ax += w * ax;
      sums.az += w * az;
      sums.bx += w * bx;
      sums.bz += w * bz;
      sums.cross += w * (ax * bz - az * bx);
      sums.dot += w * (ax * bx + az * bz);
    }
    const over = { ...solveFloor(sums), y: a(1, result.body.hips) - b(1, source.body.hips) };
    for (const { part, a: i, b: j } of pairs) {
      const at = [b(0, j), b(1, j), b(2, j)];
      movePoint(at, 0, over, at, 0);
      const cm = 100 * Math.hypot(at[0] - a(0, i), at[1] - a(1, i), at[2] - a(2, i));
      distances.push(cm);
      if (cm > worst.worstCm) worst = { worstCm: cm, worstPart: part, worstFrame: f };
    }
  }
  if (distances.length === 0) return null;
  distances.sort((m, n) => m - n);
  return { medianCm: distances[distances.length >> 1], ...worst };
}
