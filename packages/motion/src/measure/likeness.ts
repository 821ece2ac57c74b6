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
  const { parts, own, other, weights } = pairsOf(result.body, source.body);
  const [p, q] = [result.globals, source.globals];
  const [hipsA, hipsB] = [result.body.hips * 3 + 1, source.body.hips * 3 + 1];
  const distances = new Float64Array(p.frames * parts.length);
  let [count, worstCm, worstPair, worstFrame] = [0, -1, 0, 0];
  for (let f = 0; f < p.frames; f++) {
    const from = frames(f);
    if (from === null || from < 0 || from >= q.frames) continue;
    const [a, b] = [f * p.joints * 3, from * q.joints * 3];
    const sums = { total: 0, ax: 0, az: 0, bx: 0, bz: 0, cross: 0, dot: 0 };
    for (let k = 0; k < parts.length; k++) {
      const [i, j, w] = [a + own[k], b + other[k], weights[k]];
      const ax = p.positions[i],
        az = p.positions[i + 2],
        bx = scale * q.positions[j],
        bz = scale * q.positions[j + 2];
      sums.total += w;
      sums.ax += w * ax;
      sums.az += w * az;
      sums.bx += w * bx;
      sums.bz += w * bz;
      sums.cross += w * (ax * bz - az * bx);
      sums.dot += w * (ax * bx + az * bz);
    }
    const over = solveFloor(sums);
    const [c, s] = [Math.cos(over.turn), Math.sin(over.turn)];
    const up = p.positions[a + hipsA] - scale * q.positions[b + hipsB];
    for (let k = 0; k < parts.length; k++) {
      const [i, j] = [a + own[k], b + other[k]];
      const bx = scale * q.positions[j],
        bz = scale * q.positions[j + 2];
      const dx = c * bx + s * bz + over.x - p.positions[i],
        dy = scale * q.positions[j + 1] + up - p.positions[i + 1],
        dz = c * bz - s * bx + over.z - p.positions[i + 2];
      const cm = 100 * Math.sqrt(dx * dx + dy * dy + dz * dz);
      distances[count++] = cm;
      if (cm > worstCm) [worstCm, worstPair, worstFrame] = [cm, k, f];
    }
  }
  if (count === 0) return null;
  const sorted = distances.subarray(0, count).sort();
  return { medianCm: sorted[count >> 1], worstCm, worstPart: parts[worstPair], worstFrame };
}

/** The parts that both bodies have, where their joints' numbers are in a frame, and how much each counts. */
function pairsOf(result: Body, source: Body) {
  const [own, other] = [weightedJoints(result), weightedJoints(source)];
  const shared = own.parts.flatMap((part, i) => {
    const k = other.parts.indexOf(part);
    return k < 0 || part === 'chest' ? [] : [{ part, own: own.joints[i], other: other.joints[k], weight: own.weights[i] }];
  });
  return {
    parts: shared.map(({ part }) => part),
    own: Int32Array.from(shared, (pair) => pair.own * 3),
    other: Int32Array.from(shared, (pair) => pair.other * 3),
    weights: Float64Array.from(shared, ({ weight }) => weight),
  };
}
