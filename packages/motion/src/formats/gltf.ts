import { InputError, type Warning } from '../error';
import { alignSigns, type Motion } from '../model/motion';
import type { Take } from '../model/take';
import type { Vec3 } from '../math/quat';
import { checkRoom } from './check-motion';
import { firstBeyond } from './first-beyond';
import { snapFrameRate } from './frame-rate';
import { openGltf, type GltfJson, type Resources } from './gltf-container';
import { jointNodes, nodeParents, type JointNodes } from './gltf-joints';
import { affineMotion } from './gltf-affine-motion';
import { rigidMotion } from './gltf-rigid-motion';
import { readTracks, type Span, type Tracks } from './gltf-track';

/** More frames than this in one animation are not believed. */
const MOST_FRAMES = 2_000_000;
/** Frames of an animation that may have as few keys as it likes, and frames a key of longer ones. */
const MOST_SPARSE = 36_000;
const KEYS_APART = 300;

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
  let allFrames = 0;
  return json.animations.map((animation, i) => {
    const label = animation.name?.trim() || `animation ${i + 1}`;
    const tracks = readTracks(gltf, animation, `Animation "${label}"`);
    if (tracks.size === 0) throw new InputError('gltf', `Animation "${label}" moves nothing.`, { line: 1 });
    const warnings: Warning[] = [];
    const joints = jointNodes(json, parentOf, new Set(tracks.keys()));
    if (joints.left > 0) {
      warnings.push({ code: 'second-skeleton', message: `${joints.left} joints belong to another skeleton and are left out.` });
    }
    const span = timing(tracks, animation.extras, warnings);
    allFrames += span.frames;
    checkRoom(allFrames, joints.nodes.length);
    const motion = sampleMotion(json, joints, tracks, span, warnings);
    return { name: json.animations.length === 1 ? name : `${name} ${label}`, part: label, format: 'gltf', motion, warnings };
  });
}

/** First and last instant and the rate at which the keys were meant. */
function timing(tracks: Tracks, extras: unknown, warnings: Warning[]): Span {
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
  // A curve between far keys is a curve; ten minutes of nothing are a key that went astray.
  if (frames > MOST_SPARSE && frames > KEYS_APART * densest.length)
    throw new InputError(
      'gltf',
      `The animation lasts ${Math.round(end - start)} s and has ${densest.length} keys at the most: one of them stands much too late.`,
      { line: 1 },
    );
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

function sampleMotion(json: GltfJson, joints: JointNodes, tracks: Tracks, span: Span, warnings: Warning[]): Motion {
  const raw = rigidMotion(json, joints, tracks, span) ?? affineMotion(json, joints, tracks, span);
  const { skeleton } = raw;
  const names = uniqueNames(
    joints.nodes.map((n, j) => json.nodes[n].name?.trim() || `joint ${j}`),
    warnings,
  );
  const motion: Motion = { ...raw, skeleton: { joints: skeleton.joints.map((joint, j) => ({ ...joint, name: names[j] })) } };
  if (firstBeyond(motion.rotations, Infinity) >= 0)
    throw new InputError('gltf', 'A joint has no rotation: the scale above it is zero.', { line: 1 });
  alignSigns(motion);
  const size = Math.max(...skeleton.joints.map(({ offset }, j) => (j === 0 ? 0 : Math.hypot(...offset))), 1e-9);
  const translations = new Map([...(motion.translations ?? [])].filter(([j, t]) => leaves(t, skeleton.joints[j].offset, 1e-5 * size)));
  const { translations: _, ...rigid } = motion;
  return translations.size > 0 ? { ...rigid, translations } : rigid;
}

/** Whether places are ever further from one than some distance, on one axis. */
function leaves(places: Float32Array, [x, y, z]: Vec3, distance: number): boolean {
  for (let i = 0; i < places.length; i += 3)
    if (Math.abs(places[i] - x) > distance || Math.abs(places[i + 1] - y) > distance || Math.abs(places[i + 2] - z) > distance) return true;
  return false;
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
