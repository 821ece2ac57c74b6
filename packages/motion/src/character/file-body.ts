import { bodyMesh } from './body-mesh';
import type { Character } from './character';
import { nodesAtRest, rotationOf } from '../formats/gltf-affine';
import { glbChunks, joinGlb, openGltf } from '../formats/gltf-container';
import { AppendedGltf } from '../formats/gltf-append';
import { nodeParents } from '../formats/gltf-joints';
import { rotate } from '../math/quat';

/** What a node of a file keeps when its body goes. */
interface BareNode {
  readonly name?: string;
  readonly children?: readonly number[];
  readonly [part: string]: unknown;
}

/** Lists that hold bodies and what bodies look like. */
const OF_BODIES = ['meshes', 'skins', 'materials', 'textures', 'images', 'samplers', 'cameras', 'accessors', 'bufferViews', 'buffers'];
const OF_NODES = ['mesh', 'skin', 'camera', 'weights', 'extensions'];

/**
 * A character whose file has joints and nothing else: nodes that only held a mesh are gone, the others are where they were.
 */
export function withoutBody(character: Character): Character {
  const { json: text } = glbChunks(character.file);
  const document = JSON.parse(new TextDecoder().decode(text)) as Record<string, unknown> & {
    nodes: BareNode[];
    scenes?: { nodes?: number[] }[];
    skins?: { joints: number[] }[];
  };
  const isJoint = new Set([...(document.skins ?? []).flatMap(({ joints }) => joints), ...character.nodes.of]);
  const stays = document.nodes.map(
    (node, n) => isJoint.has(n) || (node.children?.length ?? 0) > 0 || !('mesh' in node || 'camera' in node),
  );
  const place = new Int32Array(document.nodes.length).fill(-1);
  let count = 0;
  stays.forEach((own, n) => {
    if (own) place[n] = count++;
  });
  const moved = (all: readonly number[]): number[] => all.filter((n) => stays[n]).map((n) => place[n]);
  const nodes = document.nodes
    .filter((_, n) => stays[n])
    .map((node) => {
      const left = Object.fromEntries(Object.entries(node).filter(([part]) => !OF_NODES.includes(part)));
      const children = moved(node.children ?? []);
      const { children: _children, ...rest } = left;
      return children.length > 0 ? { ...rest, children } : rest;
    });
  const scenes = document.scenes?.map((scene) => ({ ...scene, nodes: moved(scene.nodes ?? []) }));
  const kept = Object.entries(document).filter(
    ([part]) => !OF_BODIES.includes(part) && !['extensions', 'extensionsUsed', 'extensionsRequired', 'animations'].includes(part),
  );
  const bare = { ...Object.fromEntries(kept), nodes, ...(scenes && { scenes }) };
  const file = joinGlb(new TextEncoder().encode(JSON.stringify(bare)), new Uint8Array(0));
  const { of, root } = character.nodes;
  return { ...character, file, nodes: { ...character.nodes, of: moved(of), root: root === null ? null : place[root] } };
}

/**
 * A character with a plain body of capsules in place of its own, on the same joints.
 */
export function withPlainBody(character: Character): Character {
  const bare = withoutBody(character);
  const { json: text } = glbChunks(bare.file);
  const document = JSON.parse(new TextDecoder().decode(text)) as Record<string, unknown> & {
    nodes: object[];
    scene?: number;
    scenes?: { nodes: number[] }[];
  };
  const gltf = openGltf(bare.file);
  const world = nodesAtRest(gltf, nodeParents(gltf.json));
  const { of, root, turn, metresPerUnit } = bare.nodes;
  const joints = root === null ? [...of] : [root, ...of];
  const shape = bodyMesh(character.skeleton, character.skeleton.body ?? null);
  const [x, y, z, w] = turn;
  const back = [-x, -y, -z, w];
  /** Places and ways of the core, in the axes and units of the file. */
  const inFile = (values: Float32Array, scale: number): Float32Array => {
    const out = new Float32Array(values.length);
    for (let i = 0; i < values.length; i += 3) rotate(out, i, back, 0, values, i);
    return out.map((v) => v * scale + 0);
  };
  const vertices = shape.joints.length;
  const [indices, weights] = [new Uint16Array(vertices * 4), new Float32Array(vertices * 4)];
  for (let v = 0; v < vertices; v++) {
    indices[v * 4] = shape.joints[v] + (root === null ? 0 : 1);
    weights[v * 4] = 1;
  }
  const out = new AppendedGltf(document, new Uint8Array(0));
  const attributes = {
    POSITION: out.accessor(inFile(shape.positions, 1 / metresPerUnit), 3, { bounds: true }),
    NORMAL: out.accessor(inFile(shape.normals, 1), 3),
    JOINTS_0: out.accessor(indices, 4),
    WEIGHTS_0: out.accessor(weights, 4),
  };
  const primitive = { attributes, indices: out.accessor(Uint32Array.from(shape.indices), 1, { bounds: false }), material: 0 };
  document.materials = [
    { name: 'body', pbrMetallicRoughness: { baseColorFactor: [0.72, 0.6, 0.46, 1], roughnessFactor: 0.8, metallicFactor: 0 } },
  ];
  document.meshes = [{ name: 'body', primitives: [primitive] }];
  const binds = new Float32Array(joints.length * 16);
  joints.forEach((node, i) => binds.set(inverseOf(world, node * 12), i * 16));
  document.skins = [{ name: 'skeleton', joints, inverseBindMatrices: out.accessor(binds, 16) }];
  document.nodes.push({ name: freeName('body', document.nodes), mesh: 0, skin: 0 });
  document.scenes ??= [{ nodes: [] }];
  document.scenes[document.scene ?? 0].nodes.push(document.nodes.length - 1);
  const bytes = out.bytes();
  return { ...bare, file: joinGlb(new TextEncoder().encode(JSON.stringify(document)), bytes) };
}

function freeName(wanted: string, nodes: readonly { readonly name?: string }[]): string {
  const taken = new Set(nodes.map(({ name = '' }) => name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted} ${n}`;
    if (!taken.has(name)) return name;
  }
}

/** The inverse of an affine map with turns and even scales, as a column-major 4 × 4. */
function inverseOf(world: Float64Array, at: number): number[] {
  const turn = [0, 0, 0, 1];
  rotationOf(turn, 0, world, at);
  const scale = Math.hypot(world[at + 3], world[at + 4], world[at + 5]);
  const back = [-turn[0], -turn[1], -turn[2], turn[3]];
  const out: number[] = [];
  const column = [0, 0, 0];
  for (const [c, axis] of [
    [0, [1, 0, 0]],
    [1, [0, 1, 0]],
    [2, [0, 0, 1]],
    [3, [-world[at + 9], -world[at + 10], -world[at + 11]]],
  ] as const) {
    rotate(column, 0, back, 0, axis, 0);
    out.push(...column.map((v) => v / scale + 0), c === 3 ? 1 : 0);
  }
  return out;
}
