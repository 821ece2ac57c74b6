import { InputError, type Warning } from '../error';
import { multiplyInverse, rotate } from '../math/quat';
import { alignSigns, createMotion, type Motion } from '../model/motion';
import type { Joint, Skeleton } from '../model/skeleton';
import type { Take } from '../model/take';
import { snapFrameRate } from './frame-rate';
import { openGltf, type GltfJson, type Resources } from './gltf-container';
import { jointNodes, nodeParents, type JointNodes } from './gltf-joints';
import { compose, multiplyAffine, restOf, rotationOf } from './gltf-affine';
import { readTracks, sampleTrack, type Track, type TrackPath } from './gltf-track';

/** More frames than this in one animation are not believed. */
const MOST_FRAMES = 2_000_000;

type Tracks = ReadonlyMap<number, Partial<Record<TrackPath, Track>>>;

/**
 * Reads every animation of a glTF 2.0 file (GLB, or .gltf) as a take: skinned or plain joints, matrices, step and cubic keys,
 * normalised integers, nodes between joints, and scale anywhere above them. Whatever lies between two joints is folded into the lower
 * one, and scale into the lengths of bones.
 *
 * @param name what to call a single take; several are called after their animations
 * @param resources the bytes of files that a .gltf names
 * @throws InputError `gltf` that names the chunk, accessor, node or animation
 */
export function readGltf(bytes: Uint8Array, name: string, resources?: Resources): Take[] {
  const gltf = openGltf(bytes, resources);
  const { json } = gltf;
  if (json.animations.length === 0) throw new InputError('gltf', 'The file has no animation.', { line: 1 });
  const parentOf = nodeParents(json);
  return json.animations.map((animation, i) => {
    const label = animation.name?.trim() || `animation ${i + 1}`;
    const tracks = readTracks(gltf, animation, `Animation "${label}"`);
    if (tracks.size === 0) throw new InputError('gltf', `Animation "${label}" moves nothing.`, { line: 1 });
    const warnings: Warning[] = [];
    const joints = jointNodes(json, parentOf, new Set(tracks.keys()));
    if (joints.left > 0) {
      warnings.push({ code: 'second-skeleton', message: `${joints.left} joints belong to another skeleton and are left out.` });
    }
    const motion = sampleMotion(json, joints, tracks, timing(tracks, animation.extras, warnings), warnings);
    return { name: json.animations.length === 1 ? name : `${name} ${label}`, part: label, format: 'gltf', motion, warnings };
  });
}

/** First and last instant and the rate at which the keys were meant. */
function timing(tracks: Tracks, extras: unknown, warnings: Warning[]): { start: number; frames: number; fps: number } {
  let start = Infinity;
  let end = -Infinity;
  let densest: Float64Array = new Float64Array(1);
  for (const byPath of tracks.values()) {
    for (const { times } of Object.values(byPath)) {
      start = Math.min(start, times[0]);
      end = Math.max(end, times[times.length - 1]);
      if (times.length > densest.length) densest = times;
    }
  }
  const named = typeof extras === 'object' && extras !== null && 'fps' in extras ? extras.fps : undefined;
  const fps = typeof named === 'number' && named >= 1 && named <= 1000 ? named : rateOf(densest, warnings);
  const frames = Math.max(1, Math.round((end - start) * fps) + 1);
  if (frames > MOST_FRAMES)
    throw new InputError('gltf', `The animation lasts ${Math.round(end - start)} s, which is not believed.`, { line: 1 });
  return { start, frames, fps };
}

/** Even keys say their rate; uneven ones are sampled at the usual rate on whose frames they lie, else at 60. */
function rateOf(times: Float64Array, warnings: Warning[]): number {
  const n = times.length;
  const mean = (times[n - 1] - times[0]) / Math.max(1, n - 1);
  let isEven = mean > 0 && n > 2;
  for (let i = 1; i < n && isEven; i++) isEven = Math.abs(times[i] - times[i - 1] - mean) < 0.02 * mean;
  if (isEven && mean < 1 / 11) return snapFrameRate(mean);
  const fits = (fps: number) => times.every((t) => Math.abs((t - times[0]) * fps - Math.round((t - times[0]) * fps)) < 0.02);
  const fps = n > 2 ? ([30, 24, 25, 60, 50, 48, 120].find(fits) ?? 60) : 60;
  warnings.push({ code: 'sampled', message: `The keys are not one per frame; the curves are sampled at ${fps} frames a second.` });
  return fps;
}

function sampleMotion(
  json: GltfJson,
  { nodes, parents, parentOf }: JointNodes,
  tracks: Tracks,
  { start, frames, fps }: { start: number; frames: number; fps: number },
  warnings: Warning[],
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
  const names = uniqueNames(
    nodes.map((n, j) => json.nodes[n].name?.trim() || `joint ${j}`),
    warnings,
  );
  const skeleton: Skeleton = {
    joints: names.map((name, j): Joint => {
      const [x, y, z] = restPlaces.subarray(j * 3, j * 3 + 3);
      const [a, b, c, d] = restTurns.subarray(j * 4, j * 4 + 4);
      return { name, parent: parents[j], offset: [x, y, z], restRotation: [a, b, c, d], endSites: [] };
    }),
  };
  const motion = createMotion(skeleton, fps, frames);
  const places = new Float64Array(count * 3);
  const moving = skeleton.joints.map((_, j) => (j > 0 ? new Float32Array(frames * 3) : motion.rootPositions));
  for (let f = 0; f < frames; f++) {
    place(start + f / fps);
    pose(motion.rotations, places, f * count * 4);
    moving.forEach((t, j) => t.set(places.subarray(j * 3, j * 3 + 3), f * 3));
  }
  if (!motion.rotations.every(Number.isFinite))
    throw new InputError('gltf', 'A joint has no rotation: the scale above it is zero.', { line: 1 });
  alignSigns(motion);
  const size = Math.max(...skeleton.joints.map(({ offset }, j) => (j === 0 ? 0 : Math.hypot(...offset))), 1e-9);
  const translations = new Map<number, Float32Array>();
  moving.forEach((t, j) => {
    const { offset } = skeleton.joints[j];
    if (j > 0 && t.some((v, i) => Math.abs(v - offset[i % 3]) > 1e-5 * size)) translations.set(j, t);
  });
  return translations.size > 0 ? { ...motion, translations } : motion;
}

export function uniqueNames(names: readonly string[], warnings: Warning[]): string[] {
  const seen = new Set<string>();
  return names.map((wanted) => {
    let name = wanted;
    for (let n = 2; seen.has(name); n++) name = `${wanted} ${n}`;
    if (name !== wanted) warnings.push({ code: 'joint-name', message: `A second joint is called "${wanted}"; it is "${name}" here.` });
    seen.add(name);
    return name;
  });
}
