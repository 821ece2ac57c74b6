/**
 * The q-quantile (0..1) with linear interpolation between order statistics; NaN of nothing.
 *
 * @example
 * quantile([1, 2, 3, 4, 5], 0.5); // 3
 */
export function quantile(values: ArrayLike<number>, q: number): number {
  const sorted = Float64Array.from(values).sort();
  return quantileSorted(sorted, q);
}

export function quantileSorted(sorted: ArrayLike<number>, q: number): number {
  if (sorted.length === 0) return Number.NaN;
  const at = (sorted.length - 1) * Math.min(1, Math.max(0, q));
  const low = Math.floor(at);
  const high = Math.ceil(at);
  return sorted[low] + (sorted[high] - sorted[low]) * (at - low);
}

export const median = (values: ArrayLike<number>): number => quantile(values, 0.5);

export function mean(values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
}
