/** A line on the floor by arc length: straight pieces and arcs, their curvature smoothed so that nobody turns on the spot. */
export interface FloorPath {
  readonly length: number;
  /** Position and heading at `s` metres along; beyond the ends it goes straight on. */
  at(s: number): { x: number; z: number; heading: number; curvature: number };
  /** Of the ground, metres: kerbs are sharp. */
  level(s: number): number;
}

/** The ground rises (or falls) by some metres at a distance along the path. */
export interface Kerb {
  readonly at: number;
  readonly rise: number;
}

export interface Piece {
  readonly metres: number;
  /** Degrees turned over the piece, positive to the left. */
  readonly turn?: number;
}

const STEP = 0.01;
const SMOOTHING = 0.6;

export function floorPath(pieces: readonly Piece[], kerbs: readonly Kerb[] = []): FloorPath {
  const length = pieces.reduce((sum, piece) => sum + piece.metres, 0);
  const n = Math.ceil(length / STEP) + 1;
  const raw = new Float64Array(n);
  let start = 0;
  for (const piece of pieces) {
    const curvature = ((piece.turn ?? 0) * Math.PI) / 180 / piece.metres;
    for (let i = Math.round(start / STEP); i < n && i * STEP < start + piece.metres; i++) raw[i] = curvature;
    start += piece.metres;
  }
  // Two passes of a box make a triangle ±SMOOTHING wide.
  const curvature = box(box(raw, SMOOTHING / 2), SMOOTHING / 2);
  const x = new Float64Array(n);
  const z = new Float64Array(n);
  const heading = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    heading[i] = heading[i - 1] + ((curvature[i - 1] + curvature[i]) / 2) * STEP;
    const middle = (heading[i - 1] + heading[i]) / 2;
    x[i] = x[i - 1] + Math.sin(middle) * STEP;
    z[i] = z[i - 1] + Math.cos(middle) * STEP;
  }
  return {
    length,
    level: (s) => kerbs.reduce((sum, kerb) => sum + (s > kerb.at ? kerb.rise : 0), 0),
    at(s) {
      const t = Math.min(n - 1, Math.max(0, s / STEP));
      const i = Math.min(n - 2, Math.floor(t));
      const u = t - i;
      const isInside = s >= 0 && s <= (n - 1) * STEP;
      const over = isInside ? 0 : s - t * STEP;
      const h = heading[i] + (heading[i + 1] - heading[i]) * u;
      // Along the arc of the piece, not its chord: a chord would kick the hips at every centimetre of a turn.
      const middle = (heading[i] + h) / 2;
      return {
        x: x[i] + Math.sin(middle) * u * STEP + Math.sin(h) * over,
        z: z[i] + Math.cos(middle) * u * STEP + Math.cos(h) * over,
        heading: h,
        curvature: isInside ? curvature[i] + (curvature[i + 1] - curvature[i]) * u : 0,
      };
    },
  };
}

function box(values: Float64Array, metres: number): Float64Array {
  const half = Math.round(metres / STEP);
  const out = new Float64Array(values.length);
  let sum = 0;
  const value = (i: number) => (i < 0 || i >= values.length ? 0 : values[i]);
  for (let i = -half; i <= half; i++) sum += value(i);
  for (let i = 0; i < values.length; i++) {
    out[i] = sum / (2 * half + 1);
    sum += value(i + half + 1) - value(i - half);
  }
  return out;
}
