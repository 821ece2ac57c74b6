import { DEGREES } from '../math/angles';
import type { Body, Side } from '../model/body';
import type { Globals } from '../model/kinematics';
import { series } from '../math/series';

/** A knee or an elbow. */
export type Hinge = `${Side} knee` | `${Side} elbow`;

/** The largest change of a hinge's angular velocity from one frame to the next, degrees a second, and the frame between. */
export interface HingeKink {
  readonly hinge: Hinge;
  readonly degS: number;
  readonly frame: number;
}

/** A hinge that the source changes by less than this is as good as still: no kink is measured against less, degrees a second. */
const LEAST = 40;

/** The largest changes of the angular velocities of knees and elbows. */
export function hingeKinks({ positions, joints, frames }: Globals, { legs, arms }: Body, fps: number): HingeKink[] {
  const out: HingeKink[] = [];
  const note = (hinge: Hinge, a: number, b: number, c: number) => {
    if (a < 0 || b < 0 || c < 0) return;
    const angles = series(frames, (f) => bend(positions, f * joints, a, b, c));
    let [degS, frame] = [0, 0];
    // A first frame that is no motion, a calibration pose, is left out.
    for (let f = Math.min(2, frames - 2); f > 0 && f < frames - 1; f++) {
      const change = Math.abs(angles[f + 1] - 2 * angles[f] + angles[f - 1]) * DEGREES * fps;
      if (change > degS) [degS, frame] = [change, f];
    }
    out.push({ hinge, degS, frame });
  };
  for (const side of ['left', 'right'] as const) {
    const { hip, knee, ankle } = legs[side];
    const { shoulder, elbow, wrist } = arms[side];
    note(`${side} knee`, hip, knee, ankle);
    note(`${side} elbow`, shoulder, elbow, wrist);
  }
  return out;
}

function bend(p: Float32Array, row: number, a: number, b: number, c: number): number {
  const [i, j, k] = [(row + a) * 3, (row + b) * 3, (row + c) * 3];
  const [ux, uy, uz] = [p[j] - p[i], p[j + 1] - p[i + 1], p[j + 2] - p[i + 2]];
  const [vx, vy, vz] = [p[k] - p[j], p[k + 1] - p[j + 1], p[k + 2] - p[j + 2]];
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  return Math.atan2(Math.hypot(x, y, z), ux * vx + uy * vy + uz * vz);
}

/** How much a hinge is kinked over what it does in the source. */
export interface Kink extends HingeKink {
  /** The largest change over the source's own largest; 1 is what the motion itself does. */
  readonly ratio: number;
}

/**
 * The knee or elbow whose largest change of angular velocity is the most times the source's own.
 *
 * @returns null where neither has such a hinge
 */
export function worstKink(result: readonly HingeKink[], source: readonly HingeKink[]): Kink | null {
  let worst: Kink | null = null;
  for (const kink of result) {
    const own = source.find(({ hinge }) => hinge === kink.hinge);
    if (!own) continue;
    const ratio = kink.degS / Math.max(LEAST, own.degS);
    if (!worst || ratio > worst.ratio) worst = { ...kink, ratio };
  }
  return worst;
}
