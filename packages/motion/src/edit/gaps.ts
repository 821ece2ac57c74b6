/** Frames in which a sensor was not heard: its rotation stands still to the bit. */
export interface Gap {
  readonly from: number;
  /** The first frame after it. */
  readonly to: number;
}

/** A longer gap is marked and left: what was done in it is anybody's guess, seconds. */
export const LONGEST_FILLED = 0.5;
/** Velocities at a gap's edges are taken from so much beside it, seconds. */
const BESIDE = 0.1;
/** Shortest stretch without any change that is a gap, seconds, and frames. */
const SHORTEST = 0.05;
const FEWEST = 3;
/** A joint that changes in fewer of its frames is not measured: it stands still because it does. */
const LIVE = 0.6;

/**
 * Finds where the rotation of a joint is frozen while it is measured elsewhere.
 *
 * @param rotations quaternions, `stride` numbers from frame to frame
 * @param at of the joint in the first frame
 */
export function findGaps(rotations: ArrayLike<number>, at: number, stride: number, frames: number, fps: number): Gap[] {
  const fewest = Math.max(FEWEST, Math.round(SHORTEST * fps));
  const gaps: Gap[] = [];
  let still = 0;
  let from = 1;
  for (let f = 1; f <= frames; f++) {
    const isStill = f < frames && isSame(rotations, f * stride + at, (f - 1) * stride + at);
    if (isStill) still++;
    else {
      // The frame before the first that repeats it was heard.
      if (f - from >= fewest) gaps.push({ from, to: f });
      from = f + 1;
    }
  }
  const silent = gaps.reduce((sum, gap) => sum + gap.to - gap.from, 0);
  const heard = frames - silent;
  return heard > 4 * fewest && still - silent <= (1 - LIVE) * heard ? gaps : [];
}

function isSame(q: ArrayLike<number>, i: number, j: number): boolean {
  return q[i] === q[j] && q[i + 1] === q[j + 1] && q[i + 2] === q[j + 2] && q[i + 3] === q[j + 3];
}

/**
 * In place: fills a gap by a curve that meets place and velocity on both sides of it: that of another moment of the take in which the rest of the body
 * moves alike, or, as far as there is none, the smoothest.
 *
 * @param channels the joint's rotation, to be filled
 * @param like the same joint at the other moment, around the same means, for every frame beside and in the gap; null: there is none
 */
export function fillGap(
  channels: readonly Float64Array[],
  { from, to }: Gap,
  fps: number,
  like: readonly Float64Array[] | null = null,
): void {
  const frames = channels[0].length;
  const beside = Math.max(3, Math.round(BESIDE * fps));
  // At the ends of a take there is one side only: it stays as it was there.
  if (from < 2 || to > frames - 2) return;
  const [before, after] = [Math.max(0, from - beside), Math.min(frames, to + beside)];
  const span = to - (from - 1);
  channels.forEach((values, c) => {
    const other = like?.[c];
    const off = other ? values.map((v, f) => v - other[f]) : values;
    const [a, b] = [off[from - 1], off[to]];
    const [u, v] = [slopeAt(off, before, from, from - 1) * span, slopeAt(off, to, after, to) * span];
    for (let f = from; f < to; f++) {
      const x = (f - from + 1) / span;
      const [x2, x3] = [x * x, x * x * x];
      const smooth = (2 * x3 - 3 * x2 + 1) * a + (x3 - 2 * x2 + x) * u + (3 * x2 - 2 * x3) * b + (x3 - x2) * v;
      values[f] = smooth + (other ? other[f] : 0);
    }
  });
}

/** How steep the parabola nearest to some frames is at one of them, a frame. */
function slopeAt(values: Float64Array, from: number, to: number, at: number): number {
  const n = to - from;
  if (n < 4) return n > 1 ? (values[to - 1] - values[from]) / (n - 1) : 0;
  // Around their middle odd and even powers are apart.
  const middle = (from + to - 1) / 2;
  let [s2, s4, y0, y1, y2] = [0, 0, 0, 0, 0];
  for (let f = from; f < to; f++) {
    const x = f - middle;
    s2 += x * x;
    s4 += x ** 4;
    y0 += values[f];
    y1 += x * values[f];
    y2 += x * x * values[f];
  }
  const bend = (n * y2 - s2 * y0) / (n * s4 - s2 * s2);
  return y1 / s2 + 2 * bend * (at - middle);
}
