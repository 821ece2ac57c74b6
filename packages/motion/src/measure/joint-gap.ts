import { rotate } from '../math/quat';

/** Points 10 cm off a joint, so that twist counts. Metres, in the joint's axes. */
export const PROBES: readonly (readonly [number, number, number])[] = [
  [0.1, 0, 0],
  [0, 0.1, 0],
  [0, 0, 0.1],
];

const pa = [0, 0, 0];
const pb = [0, 0, 0];

/**
 * How far a joint is from where it should be: the mean square distance, m², of the points 10 cm off it.
 *
 * @param a, b where the numbers of the two joints begin: `place` and `turn` hold three and four a joint
 */
export function jointGap(
  placeA: ArrayLike<number>,
  turnA: ArrayLike<number>,
  a: number,
  placeB: ArrayLike<number>,
  turnB: ArrayLike<number>,
  b: number,
): number {
  let square = 0;
  for (const probe of PROBES) {
    rotate(pa, 0, turnA, a * 4, probe, 0);
    rotate(pb, 0, turnB, b * 4, probe, 0);
    for (let k = 0; k < 3; k++) square += (placeA[a * 3 + k] + pa[k] - placeB[b * 3 + k] - pb[k]) ** 2;
  }
  return square / PROBES.length;
}
