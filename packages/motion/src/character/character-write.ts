import { InputError } from '../error';
import type { TrackName } from './key-tracks';
import { thinnedKeys } from './thinned-keys';
import { keyChannel } from './key-channel';
import type { Character } from './character';
import { fromHeading, multiply, multiplyInverse, type Quat, type Vec3 } from '../math/quat';
import { minus, times, turned } from '../math/vec';
import { nodesAtRest, restOf, rotationOf } from '../formats/gltf-affine';
import { glbChunks, joinGlb, openGltf, type GltfJson } from '../formats/gltf-container';
import { AppendedGltf } from '../formats/gltf-append';
import { nodeParents } from '../formats/gltf-joints';
import { keyExtras, type NamedClip } from './glb-write';

/**
 * Writes clips into a character's own file: its nodes, bind pose, skin and everything else stay byte for byte what they were, only the animations
 * are others. The joint above the hips carries the travel; where there is none, the hips do.
 *
 * @param clips at the rate they ship at, on the character's skeleton
 * @throws InputError `skeleton-mix` when a clip is on another skeleton
 *
 * @example
 * writeCharacterGlb([{ name: 'stroll', clip: cutClip(fitMotion(motion, character, settings).motion, 0, 30) }], character).length > 10_000; // true
 */
export function writeCharacterGlb(clips: readonly NamedClip[], character: Character): Uint8Array {
  const { json: text, binary } = glbChunks(character.file);
  const document = JSON.parse(new TextDecoder().decode(text)) as Record<string, unknown> & { nodes: Record<string, unknown>[] };
  const gltf = openGltf(character.file);
  const rest = restOfFile(gltf.json, nodesAtRest(gltf, nodeParents(gltf.json)));
  const out = new AppendedGltf(document, binary ?? new Uint8Array(0));
  const moved = new Set<number>();
  const inputs = new Map<string, number>();
  const animations = clips.map((named) => {
    const { name, clip } = named;
    const { motion } = clip;
    if (motion.skeleton.joints.length !== character.skeleton.joints.length) {
      throw new InputError('skeleton-mix', `"${name}" is not on the skeleton of ${character.name}.`);
    }
    const { frames, fps } = motion;
    const thinned = thinnedKeys(clip);
    const inputOf = (kept: Int32Array | null): number => {
      const key = `${kept ? kept.join() : frames}@${fps}`;
      const input =
        inputs.get(key) ??
        out.accessor(
          Float32Array.from(kept ?? { length: frames }, (own, f) => (kept ? Number(own) : f) / fps),
          1,
        );
      inputs.set(key, input);
      return input;
    };
    const samplers: object[] = [];
    const channels: object[] = [];
    const channel: Channel = (node, path, dense, track) => {
      const size = path === 'rotation' ? 4 : 3;
      const { frames: kept, values, interpolation } = keyChannel(dense, size, fps, thinned, track);
      moved.add(node);
      channels.push({ sampler: samplers.length, target: { node, path } });
      samplers.push({ input: inputOf(kept), output: out.accessor(values, size), interpolation });
    };
    writeWhole(clip, character, rest, channel);
    writeJoints(clip, character, rest, channel);
    return { name, channels, samplers, extras: keyExtras(named) };
  });
  // A node that is animated may not be given as a matrix (glTF 2.0, 5.25).
  for (const n of moved) if (document.nodes[n].matrix !== undefined) document.nodes[n] = asParts(document.nodes[n], gltf.json, n);
  document.animations = animations;
  const bytes = out.bytes();
  return joinGlb(new TextEncoder().encode(JSON.stringify(document)), bytes);
}

/** @param track whose keys it has; null: one on every frame */
type Channel = (node: number, path: 'translation' | 'rotation', values: Float32Array, track: TrackName | null) => void;
type WrittenClip = NamedClip['clip'];

/** World rotations, places and scales of the nodes of a file at rest, and their parents. */
interface FileRest {
  readonly parentOf: Int32Array;
  readonly turn: (node: number) => Quat;
  readonly place: (node: number) => Vec3;
  readonly scale: (node: number) => number;
}

function restOfFile(json: GltfJson, world: Float64Array): FileRest {
  return {
    parentOf: nodeParents(json),
    turn(n) {
      const q: [number, number, number, number] = [0, 0, 0, 1];
      if (n >= 0) rotationOf(q, 0, world, n * 12);
      return q;
    },
    place: (n) => (n < 0 ? [0, 0, 0] : [world[n * 12 + 9], world[n * 12 + 10], world[n * 12 + 11]]),
    scale: (n) => (n < 0 ? 1 : Math.hypot(world[n * 12 + 3], world[n * 12 + 4], world[n * 12 + 5])),
  };
}

/** The way of the whole: on the root, and the hips within it; or all of it on the hips. */
function writeWhole({ motion, travel }: WrittenClip, { nodes }: Character, rest: FileRest, channel: Channel): void {
  const { frames } = motion;
  const J = motion.skeleton.joints.length;
  const toFile = inverse(nodes.turn);
  const place = (p: Vec3): Vec3 => times(turned(toFile, 0, p), 1 / nodes.metresPerUnit);
  const [hips] = nodes.of;
  const way = (f: number): typeof STILL =>
    travel ? { at: [travel.x[f], travel.y[f], travel.z[f]], turn: fromHeading(travel.heading[f]) } : STILL;
  const local = track(frames);
  /** A transform of the world of the file, under the parent of a node at rest. */
  const put = (f: number, node: number, at: Vec3, turn: Quat) => {
    const up = rest.parentOf[node];
    const back = inverse(rest.turn(up));
    const moved = times(turned(back, 0, minus(at, rest.place(up))), 1 / rest.scale(up));
    local.places.set(moved, f * 3);
    multiplyInverse(local.turns, f * 4, rest.turn(up), 0, turn, 0);
  };
  if (nodes.root !== null) {
    for (let f = 0; f < frames; f++) {
      const { at, turn } = way(f);
      const spin = conjugated(toFile, turn);
      const own = rest.place(nodes.root);
      const [x, y, z] = turned(spin, 0, own);
      const [px, py, pz] = place(at);
      put(f, nodes.root, [px + x, py + y, pz + z], product(spin, rest.turn(nodes.root)));
    }
    channel(nodes.root, 'translation', local.places.slice(), travel && 'root place');
    channel(nodes.root, 'rotation', continuous(local.turns.slice()), travel && 'root heading');
  }
  for (let f = 0; f < frames; f++) {
    const here: Vec3 = [motion.rootPositions[f * 3], motion.rootPositions[f * 3 + 1], motion.rootPositions[f * 3 + 2]];
    const q = motion.rotations.subarray(f * J * 4, f * J * 4 + 4);
    const own: Quat = [q[0], q[1], q[2], q[3]];
    // Under a root the hips are as they are against it at rest; without one they carry the way themselves.
    const { at, turn } = nodes.root === null ? way(f) : STILL;
    const [x, y, z] = turned(turn, 0, here);
    put(f, hips, place([x + at[0], y + at[1], z + at[2]]), product(toFile, product(turn, own)));
  }
  // Where way and hips are one track, neither's keys are enough.
  const isMixed = nodes.root === null && travel !== null;
  channel(hips, 'translation', local.places, isMixed ? null : 'place');
  channel(hips, 'rotation', continuous(local.turns), isMixed ? null : 0);
}

/** Rotations of the other joints, and translations of those that have any; nodes between joints keep theirs. */
function writeJoints({ motion }: WrittenClip, { nodes, skeleton }: Character, rest: FileRest, channel: Channel): void {
  const { frames } = motion;
  const J = skeleton.joints.length;
  for (let j = 1; j < J; j++) {
    const node = nodes.of[j];
    const joint = nodes.of[skeleton.joints[j].parent];
    const up = rest.parentOf[node];
    // From the joint above to the node right above, which is the same unless there are nodes between.
    const between = product(inverse(rest.turn(joint)), rest.turn(up));
    const turns = new Float32Array(frames * 4);
    for (let f = 0; f < frames; f++) multiplyInverse(turns, f * 4, between, 0, motion.rotations, (f * J + j) * 4);
    channel(node, 'rotation', continuous(turns), j);
    const moving = motion.translations?.get(j);
    if (!moving) continue;
    const inJoint = turned(inverse(rest.turn(joint)), 0, minus(rest.place(up), rest.place(joint)));
    const places = new Float32Array(frames * 3);
    for (let f = 0; f < frames; f++) {
      const v: Vec3 = [moving[f * 3], moving[f * 3 + 1], moving[f * 3 + 2]];
      const own = times(turned(inverse(between), 0, minus(times(v, 1 / nodes.metresPerUnit), inJoint)), 1 / rest.scale(up));
      places.set(own, f * 3);
    }
    channel(node, 'translation', places, null);
  }
}

const STILL: { readonly at: Vec3; readonly turn: Quat } = { at: [0, 0, 0], turn: [0, 0, 0, 1] };
const track = (frames: number) => ({ places: new Float32Array(frames * 3), turns: new Float32Array(frames * 4) });
const inverse = ([x, y, z, w]: Quat): Quat => [-x, -y, -z, w];

function product(a: Quat, b: Quat): Quat {
  const out: [number, number, number, number] = [0, 0, 0, 1];
  multiply(out, 0, a, 0, b, 0);
  return out;
}

/** A turn as seen from other axes. */
const conjugated = (to: Quat, turn: Quat): Quat => product(product(to, turn), inverse(to));

function continuous(turns: Float32Array): Float32Array {
  for (let i = 4; i < turns.length; i += 4) {
    let d = 0;
    for (let k = 0; k < 4; k++) d += turns[i + k] * turns[i + k - 4];
    if (d < 0) for (let k = 0; k < 4; k++) turns[i + k] *= -1;
  }
  return turns;
}

function asParts(node: Record<string, unknown>, json: GltfJson, n: number): Record<string, unknown> {
  const { translation, rotation, scale } = restOf(json, n);
  const { matrix: _matrix, ...others } = node;
  return { ...others, translation, rotation, scale };
}
