import { median } from '../math/statistics';
import type { Body } from '../model/body';
import type { Globals } from '../model/kinematics';
import type { Soles } from './soles';

/** The velocity at which someone who walks on the spot would go, metres a second. */
export interface Belt {
  readonly x: number;
  readonly z: number;
}

/**
 * The speed of the floor under someone who walks on the spot: the median velocity of the lower foot's lowest point, when the hips
 * get nowhere and those velocities agree. Null for everyone else.
 */
export function beltSpeed(soles: Soles, globals: Globals, body: Body, fps: number): Belt | null {
  const n = globals.frames;
  const hips = (f: number, k: number) => globals.positions[(f * globals.joints + body.hips) * 3 + k];
  const far = Math.hypot(hips(n - 1, 0) - hips(0, 0), hips(n - 1, 2) - hips(0, 2));
  if (n < 4 || far > 0.1 * Math.max(1, n / fps)) return null;
  const vx: number[] = [];
  const vz: number[] = [];
  const points = [soles.left.heel, soles.left.ball, soles.left.tip, soles.right.heel, soles.right.ball, soles.right.tip];
  for (let f = 1; f < n - 1; f++) {
    const low = points.reduce((a, b) => (b[f * 3 + 1] < a[f * 3 + 1] ? b : a));
    if (low[f * 3 + 1] > soles.floor + 0.02) continue;
    vx.push(((low[f * 3 + 3] - low[f * 3 - 3]) * fps) / 2);
    vz.push(((low[f * 3 + 5] - low[f * 3 - 1]) * fps) / 2);
  }
  if (vx.length < n / 8) return null;
  const x = median(vx);
  const z = median(vz);
  const speed = Math.hypot(x, z);
  const spread = median(vx.map((v, i) => Math.hypot(v - x, vz[i] - z)));
  return speed > 0.25 && spread < 0.35 * speed ? { x: -x, z: -z } : null;
}

/** Soles as if the floor stood and the walker went. */
export function offTheBelt(soles: Soles, { x, z }: Belt, fps: number): Soles {
  const moved = (track: Float32Array) => {
    const out = track.slice();
    for (let f = 0; f < out.length / 3; f++) {
      out[f * 3] += (x * f) / fps;
      out[f * 3 + 2] += (z * f) / fps;
    }
    return out;
  };
  const foot = ({ heel, ball, tip }: Soles['left']) => ({ heel: moved(heel), ball: moved(ball), tip: moved(tip) });
  return { ...soles, left: foot(soles.left), right: foot(soles.right) };
}
