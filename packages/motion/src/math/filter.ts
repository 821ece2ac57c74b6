/**
 * Zero-phase Butterworth low-pass of second order, run forward and backward (so fourth order in all); the ends are
 * extended by point reflection so that a straight line passes unchanged.
 *
 * Source: Winter, *Biomechanics and Motor Control of Human Movement* (the filter of the field).
 *
 * @param values one channel, one number per frame; not changed
 * @param hertz the frequency that is halved in power by the two passes together
 * @param fps frames a second
 * @param into as many numbers, for the result; a new array when it is not given
 */
export function lowPass(
  values: ArrayLike<number>,
  hertz: number,
  fps: number,
  into: Float64Array = new Float64Array(values.length),
): Float64Array {
  const n = values.length;
  if (n < 4 || hertz >= fps / 2) {
    into.set(values);
    return into;
  }
  const corrected = hertz / 0.802; // two passes lower the corner; Winter's correction
  const k = Math.tan(Math.PI * Math.min(corrected / fps, 0.49));
  const norm = 1 / (1 + Math.SQRT2 * k + k * k);
  const b0 = k * k * norm;
  const a1 = 2 * (k * k - 1) * norm;
  const a2 = (1 - Math.SQRT2 * k + k * k) * norm;
  const pad = Math.min(n - 1, Math.ceil((2 * fps) / hertz));
  const out = paddedRoom(n + 2 * pad);
  for (let i = 0; i < pad; i++) {
    out[i] = 2 * values[0] - values[pad - i];
    out[n + pad + i] = 2 * values[n - 1] - values[n - 2 - i];
  }
  out.set(values, pad);
  const end = n + 2 * pad;
  pass(out, 0, end, 1, b0, a1, a2);
  pass(out, end - 1, -1, -1, b0, a1, a2);
  into.set(out.subarray(pad, pad + n));
  return into;
}

let room = new Float64Array(0);

/** Room for a curve with its ends extended, kept for the next one. */
function paddedRoom(length: number): Float64Array {
  if (room.length < length) room = new Float64Array(length);
  return room;
}

/** In place, from one place to before another: the filter in one direction, as if its first value had been there for ever. */
function pass(out: Float64Array, from: number, to: number, step: number, b0: number, a1: number, a2: number): void {
  let x1 = out[from];
  let x2 = x1;
  let y1 = x1;
  let y2 = x1;
  for (let i = from; i !== to; i += step) {
    const x = out[i];
    // The last value comes in last: the next one waits for nothing else.
    const y = b0 * (x + 2 * x1 + x2) - a2 * y2 - a1 * y1;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    out[i] = y;
  }
}

/** Centred moving average over `width` frames (any real number ≥ 1), windows shortened symmetrically at the ends. */
export function movingAverage(values: ArrayLike<number>, width: number): Float64Array {
  const n = values.length;
  const sums = new Float64Array(n + 1);
  for (let i = 0; i < n; i++) sums[i + 1] = sums[i] + values[i];
  const out = new Float64Array(n);
  const half = Math.max(0, (width - 1) / 2);
  for (let i = 0; i < n; i++) {
    const h = Math.min(half, i, n - 1 - i);
    const whole = Math.floor(h);
    const part = h - whole;
    let sum = sums[i + whole + 1] - sums[i - whole];
    let weight = 2 * whole + 1;
    if (part > 0 && i - whole - 1 >= 0 && i + whole + 1 < n) {
      sum += part * (values[i - whole - 1] + values[i + whole + 1]);
      weight += 2 * part;
    }
    out[i] = sum / weight;
  }
  return out;
}
