/**
 * The index of the first of some values that is no number, or as far from zero as a limit or further; −1 when there is none.
 * A plain loop: of a long take there are tens of millions.
 */
export function firstBeyond(values: Float32Array | Float64Array, limit: number): number {
  for (let i = 0; i < values.length; i++) if (!(Math.abs(values[i]) < limit)) return i;
  return -1;
}
