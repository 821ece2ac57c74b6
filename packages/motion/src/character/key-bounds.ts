import { bodyOf } from '../anatomy/body-of';
import { angleBetween } from '../math/quat';
import { series } from '../math/series';
import type { Contacts } from '../model/contacts';
import type { Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { restPose, type Skeleton } from '../model/skeleton';
import type { Track, Tracked, TrackName } from './key-tracks';

/** Points as far as this from a joint count, so that its twist does, metres. */
export const BESIDE = 0.1;

/** How far points within 10 cm of a joint are apart at the most, metres. @param i `frame · joints + joint` */
export function offAt(a: Globals, b: Globals, i: number): number {
  const [p, q] = [a.positions, b.positions];
  const [x, y, z] = [p[i * 3] - q[i * 3], p[i * 3 + 1] - q[i * 3 + 1], p[i * 3 + 2] - q[i * 3 + 2]];
  return Math.sqrt(x * x + y * y + z * z) + BESIDE * angleBetween(a.rotations, i * 4, b.rotations, i * 4);
}

/** The bound of every joint in every frame, metres: `frame · J + joint`; tighter where a foot bears. */
export function boundsOf({ motion }: Tracked, contacts: Contacts | null, bound: number, footShare: number): Float64Array {
  const J = motion.skeleton.joints.length;
  const out = new Float64Array(motion.frames * J).fill(bound);
  const body = bodyOf(motion);
  if (!body || !contacts) return out;
  for (const side of ['left', 'right'] as const) {
    const { ankle, toe } = body.legs[side];
    for (const { from, to } of contacts[side])
      for (let f = Math.max(0, from); f < Math.min(motion.frames, to); f++)
        for (const joint of [ankle, toe]) if (joint >= 0) out[f * J + joint] = bound * footShare;
  }
  return out;
}

/** For every joint those that hang from it, itself too, each with how far away it can be, metres. */
export type Reach = readonly (readonly { readonly joint: number; readonly far: number }[])[];

/** How far what hangs from each joint reaches, points beside it included. */
export function reachOf(skeleton: Skeleton): Reach {
  const { positions } = restPose(skeleton);
  const length = skeleton.joints.map(({ parent }, j) =>
    parent < 0 ? 0 : Math.hypot(...[0, 1, 2].map((k) => positions[j * 3 + k] - positions[parent * 3 + k])),
  );
  const out: { joint: number; far: number }[][] = skeleton.joints.map(() => []);
  skeleton.joints.forEach((_, j) => {
    let far = 0;
    for (let up = j; up >= 0; up = skeleton.joints[up].parent) {
      out[up].push({ joint: j, far: far + BESIDE });
      far += length[up];
    }
  });
  return out;
}

/** What hangs from a track. */
export const belowOf = (reach: Reach, name: TrackName) => reach[typeof name === 'number' ? name : 0];

/** What a track may be off by in every frame if it alone were off: radians, or metres. */
export function tolerances(motion: Motion, bounds: Float64Array, reach: Reach, { name, size }: Track): Float64Array {
  const J = motion.skeleton.joints.length;
  return series(motion.frames, (f) => {
    let least = Infinity;
    for (const { joint, far } of belowOf(reach, name)) least = Math.min(least, bounds[f * J + joint] / (size === 4 ? far : 1));
    return least;
  });
}
