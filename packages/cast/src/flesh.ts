import { cross, minus, norm, plus, times, unit, type Vec3 } from '@lantern/motion';

/** Joint names and how much each carries; they come to 1. */
export type Weights = readonly (readonly [joint: string, weight: number])[];

/** A skinned shape in the making: vertices in the world of the bind pose, colours linear. */
export interface Flesh {
  readonly positions: number[];
  readonly normals: number[];
  readonly colours: number[];
  readonly weights: Weights[];
  readonly indices: number[];
}

export const bare = (): Flesh => ({ positions: [], normals: [], colours: [], weights: [], indices: [] });

/** A section of a limb or a trunk: an ellipse about its middle. */
export interface Ring {
  readonly at: Vec3;
  readonly wide: number;
  readonly deep: number;
  readonly colour: Vec3;
  /** Of a point of the ring. */
  readonly weights: (point: Vec3) => Weights;
}

export interface LoftOptions {
  /** Points to a ring. */
  readonly round?: number;
  /** Across: the direction of `wide`. */
  readonly side: Vec3;
  /** No point comes below this height, metres: soles are flat. */
  readonly level?: number;
}

/** Joins rings by a smooth skin and closes both ends. */
export function loft(flesh: Flesh, rings: readonly Ring[], { round = 12, side, level = -Infinity }: LoftOptions): void {
  const first = flesh.positions.length / 3;
  const last = rings.length - 1;
  const points: Vec3[] = [];
  const add = (point: Vec3, ring: Ring) => {
    const at: Vec3 = [point[0], Math.max(level, point[1]), point[2]];
    points.push(at);
    flesh.positions.push(...at);
    flesh.colours.push(...ring.colour);
    flesh.weights.push(ring.weights(at));
  };
  rings.forEach((ring, r) => {
    const along = unit(minus(rings[Math.min(last, r + 1)].at, rings[Math.max(0, r - 1)].at));
    const front = unit(cross(along, side));
    const across = unit(cross(front, along));
    for (let k = 0; k < round; k++) {
      const angle = (k / round) * 2 * Math.PI;
      add(plus(ring.at, plus(times(across, Math.cos(angle) * ring.wide), times(front, Math.sin(angle) * ring.deep))), ring);
    }
  });
  add(rings[0].at, rings[0]);
  add(rings[last].at, rings[last]);
  const faces: [number, number, number][] = [];
  for (let k = 0; k < round; k++) {
    const next = (k + 1) % round;
    for (let r = 0; r < last; r++) {
      const [p, q] = [r * round + k, r * round + next];
      faces.push([p, q, p + round], [q, q + round, p + round]);
    }
    faces.push([rings.length * round, next, k], [rings.length * round + 1, last * round + k, last * round + next]);
  }
  smoothNormals(flesh, points, faces);
  for (const face of faces) flesh.indices.push(...face.map((v) => first + v));
}

/** Normals from the faces about each point, the larger counting more. */
export function smoothNormals(flesh: Flesh, points: readonly Vec3[], faces: readonly (readonly [number, number, number])[]): void {
  const sums = points.map((): Vec3 => [0, 0, 0]);
  for (const [a, b, c] of faces) {
    const normal = cross(minus(points[b], points[a]), minus(points[c], points[a]));
    for (const v of [a, b, c]) sums[v] = plus(sums[v], normal);
  }
  for (const sum of sums) flesh.normals.push(...(norm(sum) > 0 ? unit(sum) : [0, 1, 0]));
}

/** A run of bones: where each joint stands, and where the last one ends. */
export interface Run {
  readonly joints: readonly { readonly name: string; readonly at: Vec3 }[];
  readonly end: Vec3;
}

/** A place along a run of bones and what carries it: near a joint the bones on both sides share. */
export function alongRun(
  { joints, end }: Run,
  blend: number,
): { length: number; at: (s: number) => Vec3; weights: (s: number) => Weights } {
  const stops = [...joints.map(({ at }) => at), end];
  const starts = [0];
  for (let i = 1; i < stops.length; i++) starts.push(starts[i - 1] + norm(minus(stops[i], stops[i - 1])));
  const boneAt = (s: number) => {
    let i = 0;
    while (i < joints.length - 1 && starts[i + 1] <= s) i++;
    return i;
  };
  return {
    length: starts[joints.length],
    at(s) {
      const i = boneAt(s);
      return plus(stops[i], times(unit(minus(stops[i + 1], stops[i])), s - starts[i]));
    },
    weights(s) {
      for (let i = 1; i < joints.length; i++) {
        const width = Math.min(blend, 0.5 * (starts[i] - starts[i - 1]), 0.5 * (starts[i + 1] - starts[i]));
        const t = (s - starts[i] + width) / (2 * width);
        if (t <= 0 || t >= 1) continue;
        const u = t * t * (3 - 2 * t);
        return [
          [joints[i - 1].name, 1 - u],
          [joints[i].name, u],
        ];
      }
      return [[joints[boneAt(s)].name, 1]];
    },
  };
}
