import { Document, WebIO, type Accessor, type Animation, type Node } from '@gltf-transform/core';
import { InputError } from '../error';
import type { TrackName } from './key-tracks';
import { thinnedKeys } from './thinned-keys';
import { keyChannel } from './key-channel';
import { fromHeading, multiplyInverse, rotate } from '../math/quat';
import { bodyMesh } from './body-mesh';
import { bodyOf } from '../anatomy/body-of';
import type { Clip } from '../model/clip';
import { restPose, type Skeleton } from '../model/skeleton';

export interface NamedClip {
  readonly name: string;
  /** With `thin`, keys are left out within its bound. */
  readonly clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts' | 'thin'>;
  /** Of a loop of which `clip` is all but the last key: where that key's root is, over that of the first, metres and radians. */
  readonly cycle?: readonly [x: number, z: number, heading: number];
}

/** What a file notes of an animation: whether it loops, its rate, and its keys before any were left out. */
export const keyExtras = ({ clip: { motion, loop }, cycle }: NamedClip): Record<string, unknown> =>
  cycle
    ? { loop: true, fps: motion.fps, frames: motion.frames + 1, lastKey: 'left out', cycle: [...cycle] }
    : { loop, fps: motion.fps, frames: motion.frames };

/**
 * Writes clips of one skeleton as one GLB: a root joint above the hips that carries the travel, the joints under it, a skin with a
 * simple body, and one animation per clip with a key on every frame, linear, without scale keys.
 *
 * @param clips at the rate they ship at; all of the same skeleton
 * @param body whether there is one, or joints alone
 * @returns the file; the same bytes for the same clips
 * @throws InputError `skeleton-mix` when the clips' skeletons differ
 *
 * @example
 * (await writeGlb([{ name: 'stroll', clip: cutClip(motion, 0, 30) }])).length > 1000; // true
 */
export async function writeGlb(clips: readonly NamedClip[], { body = true }: { readonly body?: boolean } = {}): Promise<Uint8Array> {
  const skeleton = clips[0].clip.motion.skeleton;
  for (const { name, clip } of clips) {
    if (!sameJoints(skeleton, clip.motion.skeleton)) {
      throw new InputError('skeleton-mix', `"${name}" has another skeleton than "${clips[0].name}": ship them in separate files.`);
    }
  }
  const document = new Document();
  document.getRoot().getAsset().generator = 'Old Lantern';
  const buffer = document.createBuffer();
  const accessor: MakeAccessor = (array, type) =>
    document
      .createAccessor()
      .setArray(array)
      .setType(type)
      .setNormalized(array instanceof Int16Array)
      .setBuffer(buffer);

  const root = document.createNode(freeName('root', skeleton));
  const nodes = skeleton.joints.map((joint) =>
    document
      .createNode(joint.name)
      // Toe tips and the top of the head have no joints: whoever reads the file again can still measure by them.
      .setExtras(joint.endSites.length > 0 ? { endSites: joint.endSites.map((site) => [...site]) } : {})
      .setTranslation([...joint.offset])
      .setRotation([...joint.restRotation]),
  );
  skeleton.joints.forEach((joint, j) => (joint.parent < 0 ? root : nodes[joint.parent]).addChild(nodes[j]));

  const scene = document.createScene('scene').addChild(root);
  if (body) scene.addChild(skinnedBody(document, accessor, clips[0].clip, [root, ...nodes]));
  const inputs = new Map<string, Accessor>();
  for (const clip of clips) animate(document, accessor, inputs, root, nodes, clip);
  return new WebIO().writeBinary(document);
}

type MakeAccessor = (array: Float32Array | Int16Array | Uint16Array | Uint32Array, type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4') => Accessor;

function sameJoints(a: Skeleton, b: Skeleton): boolean {
  return (
    a.joints.length === b.joints.length &&
    a.joints.every((joint, j) => {
      const other = b.joints[j];
      return (
        joint.name === other.name && joint.parent === other.parent && joint.offset.every((v, k) => Math.abs(v - other.offset[k]) < 1e-6)
      );
    })
  );
}

function freeName(wanted: string, skeleton: Skeleton): string {
  const taken = new Set(skeleton.joints.map((joint) => joint.name.toLowerCase()));
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted} ${n}`;
    if (!taken.has(name)) return name;
  }
}

function skinnedBody(document: Document, accessor: MakeAccessor, clip: Pick<Clip, 'motion'>, joints: readonly Node[]): Node {
  const { skeleton } = clip.motion;
  const shape = bodyMesh(skeleton, bodyOf(clip.motion));
  const vertices = shape.joints.length;
  const indices = new Uint16Array(vertices * 4);
  const weights = new Float32Array(vertices * 4);
  for (let v = 0; v < vertices; v++) {
    indices[v * 4] = shape.joints[v] + 1; // joint 0 of the skin is the root
    weights[v * 4] = 1;
  }
  const material = document.createMaterial('body').setBaseColorFactor([0.72, 0.6, 0.46, 1]).setRoughnessFactor(0.8).setMetallicFactor(0);
  const primitive = document
    .createPrimitive()
    .setMaterial(material)
    .setIndices(accessor(shape.indices, 'SCALAR'))
    .setAttribute('POSITION', accessor(shape.positions, 'VEC3'))
    .setAttribute('NORMAL', accessor(shape.normals, 'VEC3'))
    .setAttribute('JOINTS_0', accessor(indices, 'VEC4'))
    .setAttribute('WEIGHTS_0', accessor(weights, 'VEC4'));
  const skin = document
    .createSkin('skeleton')
    .setSkeleton(joints[0])
    .setInverseBindMatrices(accessor(inverseBinds(skeleton), 'MAT4'));
  for (const joint of joints) skin.addJoint(joint);
  return document.createNode('body').setMesh(document.createMesh('body').addPrimitive(primitive)).setSkin(skin);
}

/** Column-major inverses of the rest pose's world matrices, the root's (identity) first. */
function inverseBinds(skeleton: Skeleton): Float32Array {
  const { positions, rotations } = restPose(skeleton);
  const out = new Float32Array((skeleton.joints.length + 1) * 16);
  const write = (at: number, q: ArrayLike<number>, p: ArrayLike<number>) => {
    const inverse = [0, 0, 0, 1];
    multiplyInverse(inverse, 0, q, 0, [0, 0, 0, 1], 0);
    for (const [c, v] of [
      [0, [1, 0, 0]],
      [1, [0, 1, 0]],
      [2, [0, 0, 1]],
      [3, [-p[0], -p[1], -p[2]]],
    ] as const) {
      rotate(out, at + c * 4, inverse, 0, v, 0);
    }
    out[at + 15] = 1;
  };
  write(0, [0, 0, 0, 1], [0, 0, 0]);
  skeleton.joints.forEach((_, j) => write((j + 1) * 16, rotations.subarray(j * 4, j * 4 + 4), positions.subarray(j * 3, j * 3 + 3)));
  // Negative zeros would be kept apart in the file for nothing.
  for (let i = 0; i < out.length; i++) out[i] += 0;
  return out;
}

function animate(
  document: Document,
  accessor: MakeAccessor,
  inputs: Map<string, Accessor>,
  root: Node,
  nodes: readonly Node[],
  named: NamedClip,
): void {
  const { name, clip } = named;
  const { motion, travel } = clip;
  const { frames, fps } = motion;
  const joints = nodes.length;
  const thinned = thinnedKeys(clip);
  const inputOf = (kept: Int32Array | null): Accessor => {
    const key = `${kept ? kept.join() : frames}@${fps}`;
    const input =
      inputs.get(key) ??
      accessor(
        Float32Array.from(kept ?? { length: frames }, (own, f) => (kept ? Number(own) : f) / fps),
        'SCALAR',
      );
    inputs.set(key, input);
    return input;
  };
  const animation: Animation = document.createAnimation(name).setExtras(keyExtras(named));
  const channel = (node: Node, path: 'translation' | 'rotation', dense: Float32Array, track: TrackName | null) => {
    const { frames: kept, values, interpolation } = keyChannel(dense, path === 'rotation' ? 4 : 3, fps, thinned, track);
    const output = accessor(values, path === 'rotation' ? 'VEC4' : 'VEC3');
    const sampler = document.createAnimationSampler().setInput(inputOf(kept)).setOutput(output).setInterpolation(interpolation);
    animation.addSampler(sampler).addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
  };
  const place = new Float32Array(frames * 3);
  const facing = new Float32Array(frames * 4);
  for (let f = 0; f < frames; f++) {
    if (travel) place.set([travel.x[f], travel.y[f], travel.z[f]], f * 3);
    facing.set(travel ? fromHeading(travel.heading[f]) : [0, 0, 0, 1], f * 4);
  }
  channel(root, 'translation', place, travel && 'root place');
  channel(root, 'rotation', facing, travel && 'root heading');
  channel(nodes[0], 'translation', motion.rootPositions, 'place');
  motion.translations?.forEach((values, j) => channel(nodes[j], 'translation', values, null));
  for (let j = 0; j < joints; j++) {
    const values = new Float32Array(frames * 4);
    for (let f = 0; f < frames; f++) {
      values.set(motion.rotations.subarray((f * joints + j) * 4, (f * joints + j) * 4 + 4), f * 4);
    }
    channel(nodes[j], 'rotation', values, j);
  }
}
