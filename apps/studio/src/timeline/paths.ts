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
  let path = '';
  const point = (frame: number, value: number) => {
    path += `${path ? 'L' : 'M'}${x(frame).toFixed(1)} ${y(value).toFixed(1)}`;
  };
  if (perPixel <= 1) {
    for (let f = first; f <= last; f++) point(f, values[f]);
    return path;
  }
  for (let a = first; a <= last; a += perPixel) {
    let low = Infinity,
      high = -Infinity;
    const end = Math.min(last, Math.ceil(a + perPixel));
    for (let f = Math.floor(a); f <= end; f++) {
      low = Math.min(low, values[f]);
      high = Math.max(high, values[f]);
    }
    point(a, low);
    if (high !== low) point(a, high);
  }
  return path;
}

/** Ticks of a ruler: a round step with room for its labels. */
export function rulerTicks(from: number, to: number, width: number, room: number): { step: number; minor: number; first: number } {
  const least = ((to - from) / Math.max(1, width)) * room;
  const power = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  const step = [1, 2, 5, 10].map((k) => k * power).find((s) => s >= least) ?? 10 * power;
  return { step, minor: step / 5 >= 1 ? step / 5 : step, first: Math.ceil(from / step) * step };
}
