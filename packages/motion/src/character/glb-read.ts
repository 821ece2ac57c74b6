import { WebIO, type Animation, type AnimationSampler, type Node } from '@gltf-transform/core';
import { InputError } from '../error';
import { readCharacter } from './read-character';
import { cubic } from '../math/monotone';
import { multiply, normalize, slerp, type Quat, type Vec3 } from '../math/quat';
import { minus, plus, times, turned } from '../math/vec';
import type { Clip } from '../model/clip';
import type { Travel } from '../model/travel';
import { alignSigns, createMotion, type Motion } from '../model/motion';
import type { Joint, Skeleton } from '../model/skeleton';
import { snapFrameRate } from '../formats/frame-rate';
import { endSitesIn } from '../formats/end-sites';
import type { NamedClip } from './glb-write';

/**
 * Reads the animations of a GLB's first skin (or, without a skin, of its animated nodes) back as clips. A topmost joint with a single
 * child that has several is the root; its keys are the travel.
 *
 * @throws InputError `glb` when it is no GLB, or nothing in it moves
 *
 * @example
 * const file = await writeGlb([{ name: 'stroll', clip: cutClip(motion, 0, 30) }]);
 * (await readGlb(file))[0].clip.motion.frames; // 31
 */
export async function readGlb(bytes: Uint8Array): Promise<NamedClip[]> {
  if (bytes.length < 20 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'glTF') {
    throw new InputError('glb', 'This is not a GLB file: it does not begin with "glTF".', { line: 1 });
  }
  let document;
  try {
    document = await new WebIO().readBinary(bytes);
  } catch (error) {
    throw new InputError('glb', `The GLB cannot be read: ${error instanceof Error ? error.message : 'it is damaged'}.`, { line: 1 });
  }
  const gltf = document.getRoot();
  const animations = gltf.listAnimations();
  if (animations.length === 0) throw new InputError('glb', 'The file has no animation.', { line: 1 });
  const listed = gltf.listSkins()[0]?.listJoints() ?? animations[0].listChannels().flatMap((channel) => channel.getTargetNode() ?? []);
  const nodes = [...new Set(listed)];
  const isIn = new Set(nodes);
  const parentIn = (node: Node): Node | null => {
    const parent = node.getParentNode();
    return parent && isIn.has(parent) ? parent : null;
  };
  const depthFirst = (node: Node): Node[] => [
    node,
    ...node
      .listChildren()
      .filter((child) => isIn.has(child))
      .flatMap(depthFirst),
  ];
  const top = nodes.find((node) => parentIn(node) === null);
  if (!top) throw new InputError('glb', 'The file has no joints.', { line: 1 });
  const ordered = depthFirst(top);
  const inner = top.listChildren().filter((child) => isIn.has(child));
  const hasRoot = inner.length === 1 && inner[0].listChildren().filter((child) => isIn.has(child)).length > 1;
  const joints = hasRoot ? ordered.slice(1) : ordered;
  const isNoted = joints.some((node) => endSitesIn(node.getExtras()).length > 0);
  const tips = isNoted ? null : tipsInSkin(bytes);
  const above = placeAbove(joints[0]);
  const size = (v: readonly number[]): Vec3 => [v[0] * above.scale, v[1] * above.scale, v[2] * above.scale];
  const skeleton: Skeleton = {
    joints: joints.map((node, j): Joint => {
      const parent = j === 0 ? -1 : joints.indexOf(node.getParentNode() ?? node);
      return {
        name: node.getName() || `joint ${j}`,
        parent,
        offset: j === 0 ? inWorld(above, node.getTranslation()) : size(node.getTranslation()),
        restRotation: j === 0 ? product(above.turn, node.getRotation()) : node.getRotation(),
        endSites: tips?.get(node.getName()) ?? endSitesIn(node.getExtras()).map(size),
      };
    }),
  };
  return animations.map((animation, i) => ({
    name: animation.getName() || `animation ${i + 1}`,
    clip: toClip(animation, skeleton, joints, hasRoot ? top : null, above),
  }));
}

/** Where something stands in the world at rest, as a whole: turned, moved, as large. */
interface Stand {
  readonly turn: Quat;
  readonly at: Vec3;
  readonly scale: number;
}

/** What lies above a node: armatures that are turned or scaled, and a root with a rest of its own. */
function placeAbove(node: Node): Stand {
  const parent = node.getParentNode();
  if (!parent) return { turn: [0, 0, 0, 1], at: [0, 0, 0], scale: 1 };
  return { turn: parent.getWorldRotation(), at: parent.getWorldTranslation(), scale: Math.hypot(...parent.getWorldScale()) / Math.sqrt(3) };
}

const inWorld = ({ turn, at, scale }: Stand, local: readonly number[]): Vec3 =>
  plus(at, times(turned(turn, 0, [local[0], local[1], local[2]]), scale));

const product = (a: readonly number[], b: readonly number[]): [number, number, number, number] => {
  const out: [number, number, number, number] = [0, 0, 0, 1];
  multiply(out, 0, a, 0, b, 0);
  return out;
};

/** Where heels, toes, hands and head end, of a file that does not note it: from its skin, by the names of the joints. */
function tipsInSkin(bytes: Uint8Array): Map<string, readonly Vec3[]> | null {
  try {
    const { skeleton, nodes } = readCharacter(bytes, 'measured');
    return nodes.metresPerUnit === 1 ? new Map(skeleton.joints.map(({ name, endSites }) => [name, endSites])) : null;
  } catch (error) {
    // Without a whole skin, soles are estimated from the joints alone.
    if (error instanceof InputError) return null;
    throw error;
  }
}

function toClip(animation: Animation, skeleton: Skeleton, nodes: readonly Node[], root: Node | null, above: Stand): Clip {
  const channels = new Map<string, AnimationSampler>();
  let duration = 0;
  let keys = 2;
  for (const channel of animation.listChannels()) {
    const node = channel.getTargetNode();
    const sampler = channel.getSampler();
    const times = sampler?.getInput()?.getArray();
    if (!node || !sampler || !times) continue;
    const id = node === root ? 'root' : String(nodes.indexOf(node));
    channels.set(`${id} ${channel.getTargetPath()}`, sampler);
    if (times[times.length - 1] > duration || times.length > keys) {
      duration = Math.max(duration, times[times.length - 1]);
      keys = Math.max(keys, times.length);
    }
  }
  const extras = animation.getExtras();
  const fps = typeof extras.fps === 'number' && extras.fps > 0 ? extras.fps : snapFrameRate(duration / (keys - 1) || 1 / 30);
  const frames = Math.max(1, Math.round(duration * fps) + 1);
  const motion = createMotion(skeleton, fps, frames);
  const translations = new Map<number, Float32Array>();
  const value = [0, 0, 0, 1];
  nodes.forEach((_, j) => {
    const turns = channels.get(`${j} rotation`);
    const moves = channels.get(`${j} translation`);
    const { offset, restRotation } = { offset: nodes[j].getTranslation(), restRotation: nodes[j].getRotation() };
    const target = j === 0 ? motion.rootPositions : moves ? new Float32Array(frames * 3) : null;
    if (target && j > 0) translations.set(j, target);
    for (let f = 0; f < frames; f++) {
      sample(value, turns, f / fps, restRotation);
      motion.rotations.set(j === 0 ? product(above.turn, value) : value, (f * nodes.length + j) * 4);
      if (!target) continue;
      sample(value, moves, f / fps, offset);
      target.set(j === 0 ? inWorld(above, value) : value.slice(0, 3).map((v) => v * above.scale), f * 3);
    }
  });
  alignSigns(motion);
  const complete: Motion = translations.size > 0 ? { ...motion, translations } : motion;
  const moved = root ? travelOf(channels, root, frames, fps) : null;
  // A root that never leaves the origin carries no travel.
  const travel = moved && [moved.x, moved.y, moved.z, moved.heading].every((values) => values.every((v) => v === 0)) ? null : moved;
  if (extras.lastKey === 'left out') return withLastKey(complete, moved, extras.cycle);
  return { motion: complete, travel, loop: typeof extras.loop === 'boolean' ? extras.loop : comesRound(complete), lead: null, tail: null };
}

/** A loop with the last key that was left out: its first, one cycle on. */
function withLastKey(motion: Motion, moved: Travel | null, noted: unknown): Clip {
  const [x, z, heading] = Array.isArray(noted) && noted.every((v) => typeof v === 'number') ? (noted as number[]) : [0, 0, 0];
  const again = (values: Float32Array, width: number) => {
    const out = new Float32Array(values.length + width);
    out.set(values);
    out.set(values.subarray(0, width), values.length);
    return out;
  };
  const further = (values: Float64Array, by: number) => Float64Array.from([...values, values[0] + by]);
  const whole: Motion = {
    ...motion,
    frames: motion.frames + 1,
    rotations: again(motion.rotations, motion.skeleton.joints.length * 4),
    rootPositions: again(motion.rootPositions, 3),
    translations: motion.translations && new Map([...motion.translations].map(([j, values]) => [j, again(values, 3)])),
  };
  alignSigns(whole);
  const travel = moved && {
    x: further(moved.x, x),
    y: further(moved.y, 0),
    z: further(moved.z, z),
    heading: further(moved.heading, heading),
  };
  const isStill = travel && [travel.x, travel.y, travel.z, travel.heading].every((values) => values.every((v) => v === 0));
  return { motion: whole, travel: isStill ? null : travel, loop: true, lead: null, tail: null };
}

function travelOf(channels: ReadonlyMap<string, AnimationSampler>, root: Node, frames: number, fps: number): Travel {
  const out: Travel = {
    x: new Float64Array(frames),
    y: new Float64Array(frames),
    z: new Float64Array(frames),
    heading: new Float64Array(frames),
  };
  const up = placeAbove(root);
  const [own, back] = [root.getWorldTranslation(), conjugate(root.getWorldRotation())];
  const value = [0, 0, 0, 1];
  for (let f = 0; f < frames; f++) {
    // What the root is moved by from its rest, in the world: how it lies and how large it is at rest is no travel.
    sample(value, channels.get('root rotation'), f / fps, root.getRotation());
    const turn = product(product(up.turn, value), back);
    sample(value, channels.get('root translation'), f / fps, root.getTranslation());
    [out.x[f], out.y[f], out.z[f]] = minus(inWorld(up, value), turned(turn, 0, own)).map(settled);
    out.heading[f] = settled(2 * Math.atan2(turn[1], turn[3]));
    if (f > 0) out.heading[f] -= 2 * Math.PI * Math.round((out.heading[f] - out.heading[f - 1]) / (2 * Math.PI));
  }
  return out;
}

/** Nothing, where it is as little as single floats leave. */
const settled = (v: number) => (Math.abs(v) < 1e-6 ? 0 : v);
const conjugate = ([x, y, z, w]: readonly number[]): Quat => [-x, -y, -z, w];

/** One channel at an instant, linear, stepped or a cubic spline. */
function sample(out: number[], sampler: AnimationSampler | undefined, seconds: number, rest: Vec3 | Quat | readonly number[]): void {
  const times = sampler?.getInput()?.getArray();
  const values = sampler?.getOutput()?.getArray();
  const width = rest.length;
  if (!sampler || !times || !values) {
    for (let k = 0; k < width; k++) out[k] = rest[k];
    return;
  }
  const isCubic = sampler.getInterpolation() === 'CUBICSPLINE';
  const at = (i: number) => (isCubic ? i * 3 + 1 : i) * width;
  let low = 0;
  let high = times.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle] <= seconds) low = middle;
    else high = middle;
  }
  const span = times[high] - times[low];
  const t = span > 0 ? Math.min(1, Math.max(0, (seconds - times[low]) / span)) : 0;
  const u = sampler.getInterpolation() === 'STEP' ? 0 : t;
  if (isCubic && span > 0) {
    // Key by key the slope before it, its value, the slope after it, a second.
    for (let k = 0; k < width; k++)
      out[k] = cubic(u, span, values[at(low) + k], values[at(low) + width + k], values[at(high) + k], values[at(high) - width + k]);
    if (width === 4) normalize(out, 0);
  } else if (width === 4) slerp(out, 0, values, at(low), values, at(high), u);
  else for (let k = 0; k < width; k++) out[k] = values[at(low) + k] * (1 - u) + values[at(high) + k] * u;
}

/** Whether the last frame's rotations are the first's, within a degree. */
function comesRound(motion: Motion): boolean {
  const joints = motion.skeleton.joints.length;
  const last = (motion.frames - 1) * joints * 4;
  for (let i = joints > 1 ? 4 : 0; i < joints * 4; i += 4) {
    let dot = 0;
    for (let k = 0; k < 4; k++) dot += motion.rotations[i + k] * motion.rotations[last + i + k];
    if (Math.abs(dot) < Math.cos(Math.PI / 360)) return false;
  }
  return motion.frames > 4;
}
