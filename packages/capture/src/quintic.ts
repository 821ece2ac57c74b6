/**
 * The polynomial of fifth degree that leaves `a` and reaches `b` with given velocity and acceleration at both ends.
 *
 * @param a position, velocity, acceleration at 0
 * @param b the same at `duration`
 */
export function quintic(a: readonly [number, number, number], b: readonly [number, number, number], duration: number) {
  const T = duration;
  const c3 = (20 * (b[0] - a[0]) - (8 * b[1] + 12 * a[1]) * T - (3 * a[2] - b[2]) * T * T) / (2 * T ** 3);
  const c4 = (30 * (a[0] - b[0]) + (14 * b[1] + 16 * a[1]) * T + (3 * a[2] - 2 * b[2]) * T * T) / (2 * T ** 4);
  const c5 = (12 * (b[0] - a[0]) - 6 * (b[1] + a[1]) * T - (a[2] - b[2]) * T * T) / (2 * T ** 5);
  return (t: number) => a[0] + t * (a[1] + t * (a[2] / 2 + t * (c3 + t * (c4 + t * c5))));
}
