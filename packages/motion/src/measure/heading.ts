import { unwrap } from '../math/angles';
import type { Body } from '../model/body';
import type { Globals } from '../model/kinematics';

/**
 * The facing of every frame about +Y, from the lateral axes of hips and shoulders together, unwrapped. Radians; 0 faces +Z,
 * positive turns left.
 */
export function headings(globals: Globals, body: Body): Float64Array {
  const { positions, joints, frames } = globals;
  const pairs = [
    [body.legs.left.hip, body.legs.right.hip],
    [body.arms.left.shoulder, body.arms.right.shoulder],
  ].filter(([l, r]) => l >= 0 && r >= 0);
  const out = new Float64Array(frames);
  for (let f = 0; f < frames; f++) {
    let x = 0;
    let z = 0;
    for (const [l, r] of pairs) {
      const dx = positions[(f * joints + l) * 3] - positions[(f * joints + r) * 3];
      const dz = positions[(f * joints + l) * 3 + 2] - positions[(f * joints + r) * 3 + 2];
      const n = Math.sqrt(dx * dx + dz * dz) || 1;
      x += dx / n;
      z += dz / n;
    }
    out[f] = Math.atan2(-z, x); // forward = left × up
  }
  return unwrap(out);
}
