import { multiplyInverse, rotate } from '../math/quat';
import { createMotion, type Motion } from '../model/motion';
import type { Joint, Skeleton } from '../model/skeleton';
import { compose, multiplyAffine, restOf, rotationOf } from './gltf-affine';
import type { GltfJson } from './gltf-container';
import type { JointNodes } from './gltf-joints';
import { sampleTrack, type Span, type Track, type Tracks } from './gltf-track';

/**
 * The motion of joints whose nodes may be scaled unevenly, mirrored or given as matrices: world matrices frame by frame, from which rotations and
 * places are taken. Right for everything, and slow.
 */
export function affineMotion(
  json: GltfJson,
  { nodes, parents, parentOf }: JointNodes,
  tracks: Tracks,
  { start, frames, fps }: Span,
): Motion {
  const count = nodes.length;
  // Every node from the tops down to the joints: they all have a say in where a joint is.
  const order = new Set<number>();
  for (const joint of nodes) {
    const chain: number[] = [];
    for (let n = joint; n >= 0 && !order.has(n); n = parentOf[n]) chain.push(n);
    for (const n of chain.reverse()) order.add(n);
  }
  const steps = [...order].map((n) => ({ n, parent: parentOf[n], rest: restOf(json, n), tracks: tracks.get(n) }));
  const world = new Float64Array(json.nodes.length * 12);
  const local = new Float64Array(12);
  const t = [0, 0, 0];
  const q = [0, 0, 0, 1];
  const s = [1, 1, 1];
  const pick = (out: number[], track: Track | undefined, seconds: number | null, still: readonly number[]) => {
    if (track && seconds !== null) sampleTrack(out, 0, track, seconds);
    else for (let k = 0; k < still.length; k++) out[k] = still[k];
  };
  const place = (seconds: number | null) => {
    for (const { n, parent, rest, tracks: moving } of steps) {
      if (rest.matrix && !(moving && seconds !== null)) local.set(rest.matrix);
      else {
        pick(t, moving?.translation, seconds, rest.translation);
        pick(q, moving?.rotation, seconds, rest.rotation);
        pick(s, moving?.scale, seconds, rest.scale);
        compose(local, t, q, s);
      }
      if (parent < 0) world.set(local, n * 12);
      else multiplyAffine(world, n * 12, world, parent * 12, local);
    }
  };
  const turns = new Float64Array(count * 4);
  const arm = [0, 0, 0];
  const back = [0, 0, 0, 1];
  const pose = (rotations: Float32Array | Float64Array, positions: Float64Array, at: number) => {
    nodes.forEach((n, j) => rotationOf(turns, j * 4, world, n * 12));
    nodes.forEach((n, j) => {
      const p = parents[j];
      if (p < 0) {
        for (let k = 0; k < 3; k++) positions[j * 3 + k] = world[n * 12 + 9 + k];
        for (let k = 0; k < 4; k++) rotations[at + k] = turns[k];
        return;
      }
      const up = nodes[p] * 12;
      for (let k = 0; k < 3; k++) {
        arm[k] = world[n * 12 + 9 + k] - world[up + 9 + k];
        back[k] = -turns[p * 4 + k];
      }
      back[3] = turns[p * 4 + 3];
      rotate(positions, j * 3, back, 0, arm, 0);
      multiplyInverse(rotations, at + j * 4, turns, p * 4, turns, j * 4);
    });
  };

  place(null);
  const restTurns = new Float64Array(count * 4);
  const restPlaces = new Float64Array(count * 3);
  pose(restTurns, restPlaces, 0);
  const skeleton: Skeleton = {
    joints: nodes.map((_, j): Joint => {
      const [x, y, z] = restPlaces.subarray(j * 3, j * 3 + 3);
      const [a, b, c, d] = restTurns.subarray(j * 4, j * 4 + 4);
      return { name: '', parent: parents[j], offset: [x, y, z], restRotation: [a, b, c, d], endSites: [] };
    }),
  };
  const motion = createMotion(skeleton, fps, frames);
  const places = new Float64Array(count * 3);
  const moving = nodes.map((_, j) => (j > 0 ? new Float32Array(frames * 3) : motion.rootPositions));
  for (let f = 0; f < frames; f++) {
    place(start + f / fps);
    pose(motion.rotations, places, f * count * 4);
    moving.forEach((values, j) => values.set(places.subarray(j * 3, j * 3 + 3), f * 3));
  }
  return { ...motion, translations: new Map(moving.flatMap((values, j) => (j > 0 ? [[j, values] as const] : []))) };
}
