import type { Groundwork } from '../measure/groundwork';

/**
 * What a frame looks like apart from where it stands and which way it faces: some joints' positions and 0.1 s of their
 * velocity, in the frame's own heading about its own hips, each number times the root of its weight. The squared distance of
 * two frames' features bounds their squared pose distance from above and is quick.
 */
export interface Features {
  readonly frames: number;
  readonly width: number;
  /** `frame · width` numbers. */
  readonly values: Float32Array;
}

const VELOCITY_SECONDS = 0.1;

/**
 * @example
 * features(ground).frames === motion.frames; // true
 */
export function features(ground: Groundwork): Features {
  const { globals, headings, motion } = ground;
  const { joints, weights } = ground.weighted;
  const { frames, positions } = globals;
  const hips = ground.body.hips;
  const width = joints.length * 6;
  const values = new Float32Array(frames * width);
  for (let f = 0; f < frames; f++) {
    const c = Math.cos(headings[f]);
    const s = Math.sin(headings[f]);
    const before = Math.max(0, f - 1);
    const after = Math.min(frames - 1, f + 1);
    const perSecond = after > before ? (motion.fps / (after - before)) * VELOCITY_SECONDS : 0;
    const ox = positions[(f * globals.joints + hips) * 3];
    const oz = positions[(f * globals.joints + hips) * 3 + 2];
    for (let k = 0; k < joints.length; k++) {
      const j = joints[k];
      const root = Math.sqrt(weights[k]);
      const p = (f * globals.joints + j) * 3;
      const a = (before * globals.joints + j) * 3;
      const b = (after * globals.joints + j) * 3;
      const x = positions[p] - ox,
        y = positions[p + 1],
        z = positions[p + 2] - oz;
      const vx = (positions[b] - positions[a]) * perSecond;
      const vy = (positions[b + 1] - positions[a + 1]) * perSecond;
      const vz = (positions[b + 2] - positions[a + 2]) * perSecond;
      const o = f * width + k * 6;
      values[o] = (c * x - s * z) * root;
      values[o + 1] = y * root;
      values[o + 2] = (s * x + c * z) * root;
      values[o + 3] = (c * vx - s * vz) * root;
      values[o + 4] = vy * root;
      values[o + 5] = (s * vx + c * vz) * root;
    }
  }
  return { frames, width, values };
}
