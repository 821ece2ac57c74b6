import { solveLinear } from '@lantern/motion';
import { quintic } from './quintic';

/** Position, velocity, acceleration. */
export type State = [number, number, number];

export interface Knot {
  readonly at: number;
  readonly value: number;
}

/**
 * The smoothest way (least squared jerk) from one state to another through given values: quintics that agree in all
 * derivatives up to the fourth at the knots. Source: Flash, Hogan, *The coordination of arm movements*, 1985.
 *
 * @returns the value at a time from 0 to `duration`
 */
export function minimumJerk(a: State, knots: readonly Knot[], b: State, duration: number): (t: number) => number {
  const m = knots.length;
  const times = [0, ...knots.map((knot) => knot.at), duration];
  const values = [a[0], ...knots.map((knot) => knot.value), b[0]];
  // Unknown: velocity and acceleration at each knot. Jerk and snap must be equal on both sides of it: two equations a knot.
  const states = (x: readonly number[]): State[] =>
    values.map((value, i) => (i === 0 ? a : i === m + 1 ? b : [value, x[2 * i - 2], x[2 * i - 1]]));
  const jumps = (x: readonly number[]): number[] => {
    const s = states(x);
    const out: number[] = [];
    for (let i = 1; i <= m; i++) {
      const [, end] = jerkAndSnap(s[i - 1], s[i], times[i] - times[i - 1]);
      const [start] = jerkAndSnap(s[i], s[i + 1], times[i + 1] - times[i]);
      out.push(end[0] - start[0], end[1] - start[1]);
    }
    return out;
  };
  const zero = new Array<number>(2 * m).fill(0);
  const base = jumps(zero);
  // The jumps are linear in the unknowns: their columns are found by trying each.
  const columns = zero.map((_, k) => jumps(zero.map((_, i) => (i === k ? 1 : 0))).map((value, row) => value - base[row]));
  const rows = zero.map((_, row) => columns.map((column) => column[row]));
  const unknowns = solveLinear(
    rows,
    base.map((value) => -value),
  );
  const solved = states(unknowns);
  const pieces = solved.slice(1).map((state, i) => quintic(solved[i], state, times[i + 1] - times[i]));
  return (t) => {
    let i = 0;
    while (i < m && t > times[i + 1]) i++;
    return pieces[i](t - times[i]);
  };
}

/** Third and fourth derivative of the quintic between two states, at its start and at its end. */
function jerkAndSnap(a: State, b: State, T: number): [[number, number], [number, number]] {
  const c3 = (20 * (b[0] - a[0]) - (8 * b[1] + 12 * a[1]) * T - (3 * a[2] - b[2]) * T * T) / (2 * T ** 3);
  const c4 = (30 * (a[0] - b[0]) + (14 * b[1] + 16 * a[1]) * T + (3 * a[2] - 2 * b[2]) * T * T) / (2 * T ** 4);
  const c5 = (12 * (b[0] - a[0]) - 6 * (b[1] + a[1]) * T - (a[2] - b[2]) * T * T) / (2 * T ** 5);
  return [
    [6 * c3, 24 * c4],
    [6 * c3 + 24 * c4 * T + 60 * c5 * T * T, 24 * c4 + 120 * c5 * T],
  ];
}
