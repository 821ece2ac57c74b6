import { solveLinear } from './solve';

/**
 * Least squares with a ridge: what several values have of several others, told row by row, all of them off their means.
 * The ridge keeps what the rows do not tell small, and is in squared units of what tells.
 */
export class Ridge {
  private readonly gram: number[][];
  private readonly sides: number[][];

  constructor(
    private readonly width: number,
    wanted: number,
    ridge: number,
  ) {
    this.gram = Array.from({ length: width }, (_, i) => Array.from({ length: width }, (_value, k) => (i === k ? ridge : 0)));
    this.sides = Array.from({ length: wanted }, () => new Array<number>(width).fill(0));
  }

  /** @param told `width` values @param own the wanted values that came with them */
  add(told: ArrayLike<number>, own: ArrayLike<number>, weight: number): void {
    for (let i = 0; i < this.width; i++) {
      const w = weight * told[i];
      const row = this.gram[i];
      for (let k = 0; k <= i; k++) row[k] += w * told[k];
      this.sides.forEach((side, k) => (side[i] += w * own[k]));
    }
  }

  /** For every wanted value, how much of each told one it has. */
  solve(): number[][] {
    for (let i = 0; i < this.width; i++) for (let k = 0; k < i; k++) this.gram[k][i] = this.gram[i][k];
    return this.sides.map((side) => solveLinear(this.gram, side));
  }
}
