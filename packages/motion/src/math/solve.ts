/**
 * Solves A·x = b for a small square A (rows), by Gaussian elimination with row exchange.
 *
 * @example
 * solveLinear([[2, 0], [0, 4]], [2, 2]); // [1, 0.5]
 */
export function solveLinear(a: readonly (readonly number[])[], b: readonly number[]): number[] {
  const n = b.length;
  const rows = a.map((row, r) => [...row, b[r]]);
  for (let i = 0; i < n; i++) {
    let pivot = i;
    for (let r = i + 1; r < n; r++) if (Math.abs(rows[r][i]) > Math.abs(rows[pivot][i])) pivot = r;
    [rows[i], rows[pivot]] = [rows[pivot], rows[i]];
    for (let r = i + 1; r < n; r++) {
      const factor = rows[r][i] / rows[i][i];
      for (let c = i; c <= n; c++) rows[r][c] -= factor * rows[i][c];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    let sum = rows[i][n];
    for (let c = i + 1; c < n; c++) sum -= rows[i][c] * x[c];
    x[i] = sum / rows[i][i];
  }
  return x;
}
