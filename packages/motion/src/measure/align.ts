import type { FloorTransform } from '../model/floor-transform';
import type { Globals } from '../model/kinematics';

/**
 * The turn about Y and shift on the floor that brings frame `b`'s joints nearest to frame `a`'s, in closed form, over a window of
 * frames around each. Source: Kovar, Gleicher, Pighin, *Motion Graphs*, 2002, section 3.
 *
 * @param joints joint indices, with `weights` that sum to 1
 * @param window frames on each side; frames that do not exist on either side are left out
 *
 * @example
 * const { globals } = ground;
 * align(globals, 30, 30, [0, 1, 2], [1, 1, 1]).turn; // 0
 */
export function align(
  globals: Globals,
  a: number,
  b: number,
  joints: readonly number[],
  weights: readonly number[],
  window = 0,
): FloorTransform {
  const { positions, frames, joints: J } = globals;
  let total = 0,
    ax = 0,
    az = 0,
    bx = 0,
    bz = 0,
    cross = 0,
    dot = 0;
  for (let w = -window; w <= window; w++) {
    const fa = a + w;
    const fb = b + w;
    if (fa < 0 || fb < 0 || fa >= frames || fb >= frames) continue;
    for (let k = 0; k < joints.length; k++) {
      const p = (fa * J + joints[k]) * 3;
      const q = (fb * J + joints[k]) * 3;
      const weight = weights[k];
      const px = positions[p],
        pz = positions[p + 2],
        qx = positions[q],
        qz = positions[q + 2];
      total += weight;
      ax += weight * px;
      az += weight * pz;
      bx += weight * qx;
      bz += weight * qz;
      dot += weight * (px * qx + pz * qz);
      cross += weight * (px * qz - pz * qx);
    }
  }
  return solveFloor({ total, ax, az, bx, bz, cross, dot });
}

/** Weighted sums over pairs of points on the floor, p where they ought to be and q where they are. */
export interface FloorSums {
  readonly total: number;
  /** Σ p, */
  readonly ax: number;
  readonly az: number;
  /** Σ q, */
  readonly bx: number;
  readonly bz: number;
  /** Σ (p.x · q.z − p.z · q.x) and Σ p · q. */
  readonly cross: number;
  readonly dot: number;
}

/** The transform that brings the points q nearest to the points p. */
export function solveFloor({ total, ax, az, bx, bz, cross, dot }: FloorSums): FloorTransform {
  // Turning q by θ about Y: x′ = c·x + s·z, z′ = c·z − s·x.
  const turn = Math.atan2(cross - (ax * bz - az * bx) / total, dot - (ax * bx + az * bz) / total);
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  return { turn, x: (ax - c * bx - s * bz) / total, z: (az - c * bz + s * bx) / total };
}
