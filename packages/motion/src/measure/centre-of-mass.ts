import type { Groundwork } from './groundwork';

/**
 * Shares of the body's mass, and where along the segment its centre lies from the first end: de Leva 1996, the mean of women and men; trunk
 * and head from hips to head.
 */
const SEGMENTS = {
  trunk: { share: 0.43, along: 0.5 },
  head: { share: 0.068, along: 0.5 },
  upperArm: { share: 0.0263, along: 0.577 },
  forearm: { share: 0.015, along: 0.457 },
  hand: { share: 0.0058, along: 0 },
  thigh: { share: 0.1447, along: 0.386 },
  shin: { share: 0.0457, along: 0.437 },
  foot: { share: 0.0133, along: 0.4 },
} as const;

/** The centre of mass per frame, three numbers, metres. Segments that a skeleton lacks weigh nothing. */
export function centreOfMass({ globals, body }: Pick<Groundwork, 'globals' | 'body'>): Float64Array {
  const { positions, joints, frames } = globals;
  const parts: { a: number; b: number; share: number; along: number }[] = [];
  const add = (kind: keyof typeof SEGMENTS, a: number, b: number) => {
    if (a >= 0) parts.push({ a, b: b >= 0 ? b : a, ...SEGMENTS[kind] });
  };
  add('trunk', body.hips, body.chest);
  add('head', body.head, body.head);
  for (const side of ['left', 'right'] as const) {
    const { hip, knee, ankle, toe } = body.legs[side];
    const { shoulder, elbow, wrist } = body.arms[side];
    add('thigh', hip, knee);
    add('shin', knee, ankle);
    add('foot', ankle, toe);
    add('upperArm', shoulder, elbow);
    add('forearm', elbow, wrist);
    add('hand', wrist, wrist);
  }
  const total = parts.reduce((sum, { share }) => sum + share, 0);
  const out = new Float64Array(frames * 3);
  for (let f = 0; f < frames; f++)
    for (const { a, b, share, along } of parts)
      for (let k = 0; k < 3; k++) {
        const from = positions[(f * joints + a) * 3 + k];
        out[f * 3 + k] += ((from + (positions[(f * joints + b) * 3 + k] - from) * along) * share) / total;
      }
  return out;
}
