import { quantile } from '../math/statistics';
import type { Groundwork } from './groundwork';

/** The ground that the feet stood on: its height under the middle of the contacts, and how it rises to +X and to +Z. */
export interface FloorPlane {
  /** Where the height is meant: the middle of the places stood on, metres. */
  readonly x: number;
  readonly z: number;
  readonly heightM: number;
  /** Rise per metre; 0 along a direction in which nobody went far enough to tell. */
  readonly riseX: number;
  readonly riseZ: number;
}

/** The places stood on must spread that far about their middle, metres, for a tilt along that direction to be told from noise. */
const LEAST_SPREAD = 0.35;

/** The plane through the lowest sole points of all contacts (their level in the middle half of each). Raised contacts are left out. */
export function floorPlane({ soles, contacts }: Groundwork): FloorPlane {
  const points: [number, number, number][] = [];
  for (const side of ['left', 'right'] as const) {
    for (const { from, to } of contacts[side]) {
      const quarter = Math.floor((to - from) / 4);
      for (let f = from + quarter; f < to - quarter; f++) {
        const low = [soles[side].heel, soles[side].ball, soles[side].tip].reduce((a, b) => (b[f * 3 + 1] < a[f * 3 + 1] ? b : a));
        points.push([low[f * 3], low[f * 3 + 1], low[f * 3 + 2]]);
      }
    }
  }
  if (points.length === 0) return { x: 0, z: 0, heightM: soles.floor, riseX: 0, riseZ: 0 };
  const middle = quantile(
    points.map(([, y]) => y),
    0.5,
  );
  const ground = points.filter(([, y]) => Math.abs(y - middle) < 0.25);
  const n = ground.length;
  const mean = [0, 1, 2].map((k) => ground.reduce((sum, p) => sum + p[k], 0) / n);
  let xx = 0,
    zz = 0,
    xz = 0,
    xy = 0,
    zy = 0;
  for (const p of ground) {
    const [x, y, z] = [p[0] - mean[0], p[1] - mean[1], p[2] - mean[2]];
    xx += (x * x) / n;
    zz += (z * z) / n;
    xz += (x * z) / n;
    xy += (x * y) / n;
    zy += (z * y) / n;
  }
  // Along the principal directions of the way, each only if it is long enough.
  const turn = Math.atan2(2 * xz, xx - zz) / 2;
  const rise = [0, 0];
  for (const [c, s] of [
    [Math.cos(turn), Math.sin(turn)],
    [-Math.sin(turn), Math.cos(turn)],
  ]) {
    const spread = xx * c * c + 2 * xz * c * s + zz * s * s;
    if (spread < LEAST_SPREAD ** 2) continue;
    const slope = (xy * c + zy * s) / spread;
    rise[0] += slope * c;
    rise[1] += slope * s;
  }
  return { x: mean[0], z: mean[2], heightM: mean[1], riseX: rise[0], riseZ: rise[1] };
}
