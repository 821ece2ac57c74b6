/** Slope at a place between two stretches: the weighted harmonic mean of theirs, so that neither side overshoots; nothing where one of them stands still. */
export function tangent(before: number, after: number, widthBefore: number, widthAfter: number): number {
  if (before * after <= 0) return 0;
  const [a, b] = [2 * widthAfter + widthBefore, widthAfter + 2 * widthBefore];
  return (a + b) / (a / before + b / after);
}

/** The cubic between two values with given slopes, at a share `u` of the width between them. */
export function cubic(u: number, width: number, from: number, slopeFrom: number, to: number, slopeTo: number): number {
  const [u2, u3] = [u * u, u * u * u];
  return from * (2 * u3 - 3 * u2 + 1) + slopeFrom * width * (u3 - 2 * u2 + u) + to * (3 * u2 - 2 * u3) + slopeTo * width * (u3 - u2);
}

/** Numbers along a line: what they are at a place is written into `out`. */
export type Curve = (x: number, out: number[]) => void;

/**
 * A smooth curve through points that never goes beyond a point (Fritsch and Carlson, 1980). Outside its ends it stays as it is there; with a
 * period it comes round, and is as smooth there as anywhere.
 *
 * @param xs where the points are, rising; at least one
 * @param ys their values, any number of them for each
 */
export function monotoneCurve(xs: readonly number[], ys: readonly (readonly number[])[], period: number | null = null): Curve {
  const [places, values] = period === null ? [xs, ys] : comingRound(xs, ys, period);
  const n = places.length;
  const width = places.slice(1).map((x, i) => x - places[i]);
  const slopes = values.map((_, i) =>
    values[0].map((__, k) => {
      if (i === 0 || i === n - 1) return 0;
      const slope = (j: number) => (values[j + 1][k] - values[j][k]) / width[j];
      return tangent(slope(i - 1), slope(i), width[i - 1], width[i]);
    }),
  );
  return (x, out) => {
    const at = period === null ? x : places[1] + ((((x - places[1]) % period) + period) % period);
    let i = 0;
    while (i < n - 2 && at > places[i + 1]) i++;
    const u = n < 2 ? 0 : Math.min(1, Math.max(0, (at - places[i]) / width[i]));
    for (let k = 0; k < values[0].length; k++)
      out[k] = n < 2 ? values[0][k] : cubic(u, width[i], values[i][k], slopes[i][k], values[i + 1][k], slopes[i + 1][k]);
  };
}

/** The points with two of the turn before and two of the turn after them, so that slopes at the seam are known. */
function comingRound(xs: readonly number[], ys: readonly (readonly number[])[], period: number): [number[], (readonly number[])[]] {
  const n = xs.length;
  const order = [-1, ...xs.map((_, i) => i), n, n + 1];
  return [order.map((i) => xs[(i + n) % n] + period * Math.floor(i / n)), order.map((i) => ys[(i + n) % n])];
}
