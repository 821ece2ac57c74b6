/**
 * The q-quantile (0..1) with linear interpolation between order statistics; NaN of nothing.
 *
 * @example
 * quantile([1, 2, 3, 4, 5], 0.5); // 3
 */
export function quantile(values: ArrayLike<number>, q: number): number {
  const own = Float64Array.from(values);
  if (own.length === 0) return Number.NaN;
  const at = (own.length - 1) * Math.min(1, Math.max(0, q));
  const low = Math.floor(at);
  const lower = putInPlace(own, low);
  if (at === low) return lower;
  // What follows is the least of those that are not smaller.
  let upper = own[low + 1];
  for (let i = low + 2; i < own.length; i++) if (own[i] < upper) upper = own[i];
  return lower + (upper - lower) * (at - low);
}

/** In place: brings the value that would stand at an index of the sorted list there, smaller ones before it and larger ones behind (Hoare 1961). */
function putInPlace(values: Float64Array, at: number): number {
  let [from, to] = [0, values.length - 1];
  while (to > from) {
    const pivot = middleOf(values[from], values[(from + to) >> 1], values[to]);
    let [i, j] = [from, to];
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i > j) break;
      const swapped = values[i];
      values[i++] = values[j];
      values[j--] = swapped;
    }
    if (at <= j) to = j;
    else if (at >= i) from = i;
    else break;
  }
  return values[at];
}

const middleOf = (a: number, b: number, c: number): number => Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

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
