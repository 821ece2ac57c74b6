import { plus, RADIANS, type Vec3 } from '@lantern/motion';
import { loft, smoothNormals, type Flesh, type Weights } from './flesh';

/** A level of a cloth: an ellipse about a middle, of which the cloth covers a part. */
export interface Level {
  readonly at: Vec3;
  readonly wide: number;
  readonly deep: number;
  /** Where it begins and ends, degrees from the front, positive to the left. A whole turn closes it. */
  readonly from: number;
  readonly to: number;
}

/** Cloth with a thickness and a hem, from its upper edge to its lower one. */
export interface Cloth {
  readonly levels: readonly Level[];
  readonly colour: Vec3;
  readonly thick?: number;
  /** Points along a level. */
  readonly round?: number;
  /** What carries a point of it; `down` is 0 at the upper edge and 1 at the lower. */
  readonly weights: (point: Vec3, down: number) => Weights;
}

/** Adds cloth: an outer and an inner skin, joined along all edges. */
export function cloth(flesh: Flesh, { levels, colour, thick = 0.012, round = 8, weights }: Cloth): void {
  const first = flesh.positions.length / 3;
  const points: Vec3[] = [];
  const add = (point: Vec3, down: number) => {
    points.push(point);
    flesh.positions.push(...point);
    flesh.colours.push(...colour);
    const carried = weights(point, down).filter(([, weight]) => weight > 1e-6);
    const sum = carried.reduce((all, [, weight]) => all + weight, 0);
    flesh.weights.push(carried.map(([joint, weight]) => [joint, weight / sum] as const));
  };
  const rows = levels.length;
  const width = round + 1;
  for (const inner of [0, thick]) {
    levels.forEach(({ at, wide, deep, from, to }, row) => {
      for (let k = 0; k < width; k++) {
        const angle = (from + ((to - from) * k) / round) * RADIANS;
        add(plus(at, [(wide - inner) * Math.sin(angle), 0, (deep - inner) * Math.cos(angle)]), row / (rows - 1));
      }
    });
  }
  const outer = (row: number, k: number) => row * width + k;
  const lining = (row: number, k: number) => rows * width + row * width + k;
  const faces: [number, number, number][] = [];
  const quad = (a: number, b: number, c: number, d: number) => faces.push([a, b, c], [a, c, d]);
  for (let row = 0; row + 1 < rows; row++) {
    for (let k = 0; k < round; k++) {
      quad(outer(row, k), outer(row + 1, k), outer(row + 1, k + 1), outer(row, k + 1));
      quad(lining(row, k), lining(row, k + 1), lining(row + 1, k + 1), lining(row + 1, k));
    }
    quad(lining(row, 0), lining(row + 1, 0), outer(row + 1, 0), outer(row, 0));
    quad(outer(row, round), outer(row + 1, round), lining(row + 1, round), lining(row, round));
  }
  for (let k = 0; k < round; k++) {
    quad(outer(rows - 1, k), lining(rows - 1, k), lining(rows - 1, k + 1), outer(rows - 1, k + 1));
    quad(outer(0, k), outer(0, k + 1), lining(0, k + 1), lining(0, k));
  }
  smoothNormals(flesh, points, faces);
  for (const face of faces) flesh.indices.push(...face.map((v) => first + v));
}

/** Adds a small round thing: a button, a knot. */
export function knob(
  flesh: Flesh,
  { at, size, colour, weights }: { readonly at: Vec3; readonly size: number; readonly colour: Vec3; readonly weights: Weights },
): void {
  const rings = [-0.8, 0, 0.8].map((up) => {
    const wide = size * Math.sqrt(1 - up * up);
    return { at: plus(at, [0, up * size, 0]), wide, deep: wide, colour, weights: () => weights };
  });
  loft(flesh, rings, { side: [1, 0, 0], round: 6 });
}

/**
 * Carries what hangs from the hips over the legs: the hips above, lower down the thigh on whose side it hangs.
 *
 * @param split half the width over which it goes from one thigh to the other, metres
 */
export function overThighs(hips: string, thighs: readonly [left: string, right: string], split: number): Cloth['weights'] {
  return ([x], down) => {
    const left = 0.5 + 0.5 * Math.max(-1, Math.min(1, x / split));
    const legs = Math.min(0.94, 1.15 * down ** 0.7);
    return [
      [hips, 1 - legs],
      [thighs[0], legs * left],
      [thighs[1], legs * (1 - left)],
    ];
  };
}
