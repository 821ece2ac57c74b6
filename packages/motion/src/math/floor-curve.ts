/** A smooth curve on the floor, by arc length. */
export interface FloorCurve {
  readonly length: number;
  /** Direction at a distance, radians from +Z, positive to the left (+X), unwrapped; beyond the end it goes straight on. */
  course(metres: number): number;
  /** Place at a distance. */
  at(metres: number): { readonly x: number; readonly z: number };
}

const STEP = 0.02;

/**
 * The curve through points, begun at (0, 0) towards +Z: a cubic piece from each point to the next, with the tangents of their neighbours.
 *
 * @param points x to the left, z ahead, metres; at least one
 *
 * @example
 * const curve = floorCurve([[0, 0], [0, 2]]);
 * [curve.length, curve.at(1).z]; // [2, 1]
 */
export function floorCurve(points: readonly (readonly [number, number])[]): FloorCurve {
  const all: (readonly [number, number])[] = [[0, 0]];
  for (const point of points) if (apart(point, all[all.length - 1]) > 0.01) all.push(point);
  if (all.length === 1) all.push([0, 1]);
  const last = all.length - 1;
  const tangents = all.map((_, i): [number, number] => {
    if (i === 0) return [0, apart(all[0], all[1])];
    const [a, b] = [all[i - 1], all[Math.min(last, i + 1)]];
    return i === last ? [b[0] - a[0], b[1] - a[1]] : [(b[0] - a[0]) / 2, (b[1] - a[1]) / 2];
  });
  const x: number[] = [];
  const z: number[] = [];
  for (let i = 0; i < last; i++) {
    const pieces = Math.max(8, Math.ceil(apart(all[i], all[i + 1]) / (STEP / 2)));
    for (let k = i === 0 ? 0 : 1; k <= pieces; k++) {
      const u = k / pieces;
      const [h00, h10, h01, h11] = [2 * u ** 3 - 3 * u * u + 1, u ** 3 - 2 * u * u + u, 3 * u * u - 2 * u ** 3, u ** 3 - u * u];
      const place = (c: 0 | 1) => all[i][c] * h00 + tangents[i][c] * h10 + all[i + 1][c] * h01 + tangents[i + 1][c] * h11;
      x.push(place(0));
      z.push(place(1));
    }
  }
  const n = x.length;
  const distance = new Float64Array(n);
  const course = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    distance[i] = distance[i - 1] + Math.hypot(x[i] - x[i - 1], z[i] - z[i - 1]);
    const turn = Math.atan2(x[i] - x[i - 1], z[i] - z[i - 1]) - course[i - 1];
    course[i] = course[i - 1] + turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
  }
  const find = (s: number): [number, number] => {
    let low = 0;
    let high = n - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (distance[middle] <= s) low = middle;
      else high = middle;
    }
    return [low, Math.min(1, Math.max(0, (s - distance[low]) / (distance[high] - distance[low] || 1)))];
  };
  return {
    length: distance[n - 1],
    course(s) {
      const [i, u] = find(s);
      return course[i] + (course[i + 1] - course[i]) * u;
    },
    at(s) {
      const [i, u] = find(s);
      const over = Math.max(0, s - distance[n - 1]);
      return {
        x: x[i] + (x[i + 1] - x[i]) * u + Math.sin(course[n - 1]) * over,
        z: z[i] + (z[i + 1] - z[i]) * u + Math.cos(course[n - 1]) * over,
      };
    },
  };
}

const apart = (a: readonly [number, number], b: readonly [number, number]) => Math.hypot(a[0] - b[0], a[1] - b[1]);
