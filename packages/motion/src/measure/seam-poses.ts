import { align } from './align';
import type { Groundwork } from './groundwork';

/** The two end poses of a cut over each other: `joint · 3` numbers each, metres, about the first one's hips on the floor, facing +Z. */
export interface SeamPoses {
  readonly first: Float32Array;
  readonly last: Float32Array;
  /** How far each joint is from its like, cm. */
  readonly errorCm: Float32Array;
  readonly floor: number;
}

/** Brings frame `to` over frame `from` by the best alignment on the floor, and both to where one looks at them from in front. */
export function seamPoses(ground: Groundwork, from: number, to: number): SeamPoses {
  const { globals, headings, body, soles } = ground;
  const { positions, joints } = globals;
  const over = align(globals, from, to, ground.weighted.joints, ground.weighted.weights);
  const [ax, az] = [0, 2].map((k) => positions[(from * joints + body.hips) * 3 + k]);
  const [c, s] = [Math.cos(headings[from]), Math.sin(headings[from])];
  const [tc, ts] = [Math.cos(over.turn), Math.sin(over.turn)];
  const first = new Float32Array(joints * 3);
  const last = new Float32Array(joints * 3);
  const errorCm = new Float32Array(joints);
  const put = (out: Float32Array, j: number, x: number, y: number, z: number) => {
    out[j * 3] = c * (x - ax) - s * (z - az);
    out[j * 3 + 1] = y - soles.floor;
    out[j * 3 + 2] = s * (x - ax) + c * (z - az);
  };
  for (let j = 0; j < joints; j++) {
    const a = (from * joints + j) * 3;
    const b = (to * joints + j) * 3;
    put(first, j, positions[a], positions[a + 1], positions[a + 2]);
    const [x, z] = [positions[b], positions[b + 2]];
    put(last, j, tc * x + ts * z + over.x, positions[b + 1], tc * z - ts * x + over.z);
    errorCm[j] = Math.hypot(first[j * 3] - last[j * 3], first[j * 3 + 1] - last[j * 3 + 1], first[j * 3 + 2] - last[j * 3 + 2]) * 100;
  }
  return { first, last, errorCm, floor: soles.floor };
}
