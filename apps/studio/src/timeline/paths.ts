import { line } from 'd3-shape';

const drawn = line().digits(1);

/**
 * An SVG path of a trace, never more than two points per pixel: each pixel's least and greatest value, so that no spike is lost.
 *
 * @param x pixel of a frame
 * @param y pixel of a value
 */
export function tracePath(
  values: Float32Array,
  from: number,
  to: number,
  width: number,
  x: (frame: number) => number,
  y: (value: number) => number,
): string {
  const first = Math.max(0, Math.floor(from));
  const last = Math.min(values.length - 1, Math.ceil(to));
  const perPixel = (last - first) / Math.max(1, width);
  const points: [number, number][] = [];
  if (perPixel <= 1) for (let f = first; f <= last; f++) points.push([x(f), y(values[f])]);
  else
    for (let a = first; a <= last; a += perPixel) {
      let [low, high] = [Infinity, -Infinity];
      const end = Math.min(last, Math.ceil(a + perPixel));
      for (let f = Math.floor(a); f <= end; f++) {
        low = Math.min(low, values[f]);
        high = Math.max(high, values[f]);
      }
      points.push([x(a), y(low)]);
      if (high !== low) points.push([x(a), y(high)]);
    }
  return drawn(points) ?? '';
}
