/**
 * Least squares with a ridge: what several values have of several others, told row by row, all of them off their means.
 * The ridge keeps what the rows do not tell small, and is in squared units of what tells.
 */
export class Ridge {
  /** Of what tells with itself, row by row; only the lower half is filled. */
  private readonly gram: readonly Float64Array[];
  private readonly sides: readonly Float64Array[];

  constructor(
    private readonly width: number,
    wanted: number,
    ridge: number,
  ) {
    this.gram = Array.from({ length: width }, () => new Float64Array(width));
    this.gram.forEach((row, i) => (row[i] = ridge));
    this.sides = Array.from({ length: wanted }, () => new Float64Array(width));
  }

  /** @param told `width` values @param own the wanted values that came with them */
  add(told: ArrayLike<number>, own: ArrayLike<number>, weight: number): void {
    for (let i = 0; i < this.width; i++) {
      const w = weight * told[i];
      const row = this.gram[i];
      for (let k = 0; k <= i; k++) row[k] += w * told[k];
      for (let s = 0; s < this.sides.length; s++) this.sides[s][i] += w * own[s];
    }
  }

  /** For every wanted value, how much of each told one it has: by Cholesky's factors, which a ridge above zero makes sure to exist. */
  solve(): Float64Array[] {
    const { width } = this;
    const lower = this.gram.map((row) => row.slice());
    for (let i = 0; i < width; i++) {
      for (let k = 0; k <= i; k++) {
        let rest = lower[i][k];
        for (let n = 0; n < k; n++) rest -= lower[i][n] * lower[k][n];
        lower[i][k] = k < i ? rest / lower[k][k] : Math.sqrt(rest);
      }
    }
    return this.sides.map((side) => {
      const x = side.slice();
      for (let i = 0; i < width; i++) {
        for (let k = 0; k < i; k++) x[i] -= lower[i][k] * x[k];
        x[i] /= lower[i][i];
      }
      for (let i = width - 1; i >= 0; i--) {
        for (let k = i + 1; k < width; k++) x[i] -= lower[k][i] * x[k];
        x[i] /= lower[i][i];
      }
      return x;
    });
  }
}
