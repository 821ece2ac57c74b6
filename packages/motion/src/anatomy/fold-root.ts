import { multiply, rotate } from '../math/quat';
import type { Body } from '../model/body';
import { pathTo } from './body-look';
import { alignSigns, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';

/**
 * The joint from which all of a body hangs: where the ways to its head and to its legs part; 0 when it is nobody's.
 *
 * @example
 * topOfBody(motion.skeleton, bodyOf(motion)); // 0
 */
export function topOfBody(skeleton: Skeleton, body: Body | null): number {
  if (!body) return 0;
  const [toHead, toHips] = [pathTo(skeleton, body.head), pathTo(skeleton, body.hips)];
  let at = 0;
  while (toHead[at + 1] === toHips[at + 1] && at + 1 < toHips.length && at + 1 < toHead.length) at++;
  return toHips[at];
}

/**
 * The motion with a joint as its first: what stands above it is folded into it, what does not hang from it is left out, and every joint that
 * stays is where it was in the world. Whatever carries the hips, they carry the body then.
 *
 * @param top from `topOfBody`; 0 changes nothing
 *
 * @example
 * foldAbove(motion, 0).skeleton.joints.length === motion.skeleton.joints.length; // true
 */
export function foldAbove(motion: Motion, top: number): Motion {
  if (top === 0) return motion;
  const { skeleton, frames, rotations, rootPositions, translations } = motion;
  const J = skeleton.joints.length;
  const kept = skeleton.joints.flatMap((_, j) => (pathTo(skeleton, j).includes(top) ? [j] : []));
  const number = new Map(kept.map((j, i) => [j, i]));
  const path = pathTo(skeleton, top);
  const rest = folded(
    path,
    (j) => skeleton.joints[j].restRotation,
    (j) => skeleton.joints[j].offset,
  );
  const K = kept.length;
  const out = { rotations: new Float32Array(frames * K * 4), rootPositions: new Float32Array(frames * 3) };
  for (let f = 0; f < frames; f++) {
    const turnOf = (j: number) => rotations.subarray((f * J + j) * 4, (f * J + j) * 4 + 4);
    const placeOf = (j: number) => {
      const own = j === 0 ? rootPositions : translations?.get(j);
      return own ? own.subarray(f * 3, f * 3 + 3) : skeleton.joints[j].offset;
    };
    const { turn, place } = folded(path, turnOf, placeOf);
    kept.forEach((j, i) => out.rotations.set(i === 0 ? turn : turnOf(j), (f * K + i) * 4));
    out.rootPositions.set(place, f * 3);
  }
  const joints = kept.map((j, i) => {
    const joint = skeleton.joints[j];
    if (i > 0) return { ...joint, parent: number.get(joint.parent) ?? 0 };
    const [x, y, z, w] = rest.turn;
    return { ...joint, parent: -1, offset: [rest.place[0], rest.place[1], rest.place[2]] as const, restRotation: [x, y, z, w] as const };
  });
  const moved = new Map(
    [...(translations ?? [])].flatMap(([j, t]) => (j !== top && number.has(j) ? [[number.get(j) ?? 0, t] as const] : [])),
  );
  const result: Motion = { ...motion, skeleton: { joints }, ...out, translations: moved.size > 0 ? moved : undefined };
  alignSigns(result);
  return result;
}

/** The world transform at the end of a path of joints. */
function folded(
  path: readonly number[],
  turnOf: (joint: number) => ArrayLike<number>,
  placeOf: (joint: number) => ArrayLike<number>,
): { turn: number[]; place: number[] } {
  const turn = [0, 0, 0, 1];
  const place = [0, 0, 0];
  const arm = [0, 0, 0];
  for (const j of path) {
    rotate(arm, 0, turn, 0, placeOf(j), 0);
    for (let k = 0; k < 3; k++) place[k] += arm[k];
    multiply(turn, 0, turn, 0, turnOf(j), 0);
  }
  return { turn, place };
}
