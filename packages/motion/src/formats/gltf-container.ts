import { z } from 'zod';
import { InputError } from '../error';
import { beyondNesting } from './nesting';

const index = z.int().min(0).max(1e7);
const triple = z.tuple([z.number(), z.number(), z.number()]);
const quad = z.tuple([z.number(), z.number(), z.number(), z.number()]);
const extensions = z.record(z.string(), z.unknown()).optional();

const bufferViewSchema = z.object({
  buffer: index,
  byteOffset: z.int().min(0).default(0),
  byteLength: z.int().min(1),
  byteStride: z.int().min(4).max(252).optional(),
  extensions,
});
const accessorSchema = z.object({
  bufferView: index.optional(),
  byteOffset: z.int().min(0).default(0),
  componentType: z.int(),
  normalized: z.boolean().default(false),
  count: z.int().min(1),
  type: z.string(),
  sparse: z
    .object({
      count: z.int().min(1),
      indices: z.object({ bufferView: index, byteOffset: z.int().min(0).default(0), componentType: z.int() }),
      values: z.object({ bufferView: index, byteOffset: z.int().min(0).default(0) }),
    })
    .optional(),
});
const nodeSchema = z.object({
  name: z.string().optional(),
  children: z.array(index).default([]),
  mesh: index.optional(),
  skin: index.optional(),
  camera: index.optional(),
  translation: triple.optional(),
  rotation: quad.optional(),
  scale: triple.optional(),
  matrix: z.array(z.number()).length(16).optional(),
});
const animationSchema = z.object({
  name: z.string().optional(),
  channels: z.array(z.object({ sampler: index, target: z.object({ node: index.optional(), path: z.string() }) })),
  samplers: z.array(z.object({ input: index, output: index, interpolation: z.string().default('LINEAR') })),
  extras: z.unknown().optional(),
});

const meshSchema = z.object({
  primitives: z.array(
    z.object({
      attributes: z.record(z.string(), index),
      indices: index.optional(),
      material: index.optional(),
      mode: z.int().default(4),
    }),
  ),
});
const materialSchema = z.object({ pbrMetallicRoughness: z.object({ baseColorFactor: quad.optional() }).optional() });

/** The parts of glTF 2.0 that motion and skins live in; textures, cameras and lights are not looked at. */
const gltfSchema = z.object({
  asset: z.object({ version: z.string() }),
  buffers: z.array(z.object({ uri: z.string().optional(), byteLength: z.number().min(0) })).default([]),
  bufferViews: z.array(bufferViewSchema).default([]),
  accessors: z.array(accessorSchema).default([]),
  nodes: z.array(nodeSchema).default([]),
  skins: z.array(z.object({ joints: z.array(index).min(1), inverseBindMatrices: index.optional() })).default([]),
  meshes: z.array(meshSchema).default([]),
  materials: z.array(materialSchema).default([]),
  animations: z.array(animationSchema).default([]),
});

export type GltfJson = z.infer<typeof gltfSchema>;
export type GltfNode = GltfJson['nodes'][number];

/** A glTF document: its JSON and its buffers, the first of which may come from the GLB's binary chunk. */
export interface Gltf {
  readonly json: GltfJson;
  readonly buffers: readonly (Uint8Array | null)[];
}

/** The bytes of another file that a .gltf names, or undefined when it is not at hand. */
export type Resources = (uri: string) => Uint8Array | undefined;

const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;

const fail = (message: string): never => {
  throw new InputError('gltf', message, { line: 1 });
};

/**
 * Opens a GLB, or a .gltf with its buffers inside or beside it.
 *
 * @throws InputError `gltf` that names the chunk, buffer or field
 */
export function openGltf(bytes: Uint8Array, resources: Resources = () => undefined): Gltf {
  const isBinary = isGlb(bytes);
  const { text, binary } = isBinary ? chunksOf(bytes) : { text: bytes, binary: null };
  const beyond = beyondNesting(text, 0, text.length, BRACES, true);
  if (beyond?.what === 'deep') fail(`The JSON is nested more than ${BRACES.deepest} deep; no glTF is.`);
  if (beyond?.what === 'many') fail(`The JSON has more than ${BRACES.most} objects; that many are not read.`);
  let parsed: unknown;
  try {
    parsed = JSON.parse(new TextDecoder('utf-8').decode(text));
  } catch (error) {
    return fail(
      `The ${isBinary ? 'JSON chunk' : 'file'} is not valid JSON (${error instanceof Error ? error.message : 'unknown reason'}).`,
    );
  }
  checkCounts(parsed);
  const checked = gltfSchema.safeParse(parsed);
  if (!checked.success) {
    const [issue] = checked.error.issues;
    return fail(`The glTF's "${issue.path.join('.') || 'document'}" is wrong: ${issue.message}.`);
  }
  const json = checked.data;
  if (!/^2\./.test(json.asset.version)) fail(`The file is glTF ${json.asset.version.slice(0, 20)}; version 2.0 was expected.`);
  const buffers = json.buffers.map(({ uri, byteLength }, i) => {
    const found = uri === undefined ? (i === 0 ? binary : null) : uri.startsWith('data:') ? fromDataUri(uri) : resources(uri);
    if (found === undefined) return fail(`Buffer ${i} is in another file, "${uri?.slice(0, 80)}": bring both in together, or save as GLB.`);
    if (found && found.length < byteLength) fail(`Buffer ${i} has ${found.length} of ${byteLength} bytes: the file is cut short.`);
    return found;
  });
  return { json, buffers };
}

/** Objects of a document altogether, and how far they are within each other. */
const BRACES = { deepest: 200, most: 500_000 };

/** Lists longer than any motion needs are refused before anything looks at their entries. */
const MOST_ENTRIES = 200_000;

function checkCounts(parsed: unknown): void {
  if (typeof parsed !== 'object' || parsed === null) return;
  for (const [name, list] of Object.entries(parsed)) {
    if (Array.isArray(list) && list.length > MOST_ENTRIES)
      fail(`The file has ${list.length} ${name}; ${MOST_ENTRIES} are the most that is read.`);
  }
}

/**
 * The JSON and the binary chunk of a GLB. @throws InputError `gltf` when it is none, or cut short
 *
 * @example
 * new TextDecoder().decode(glbChunks(glb).json).includes('"skins"'); // true
 */
export function glbChunks(bytes: Uint8Array): { json: Uint8Array; binary: Uint8Array | null } {
  if (!isGlb(bytes)) return fail('This is not a GLB file: it does not begin with "glTF".');
  const { text, binary } = chunksOf(bytes);
  return { json: text, binary };
}

/** A GLB of a JSON and a binary chunk, each padded to four bytes as glTF asks. */
export function joinGlb(json: Uint8Array, binary: Uint8Array): Uint8Array {
  const padded = (length: number) => Math.ceil(length / 4) * 4;
  const [a, b] = [padded(json.length), padded(binary.length)];
  const out = new Uint8Array(12 + 8 + a + 8 + b);
  const view = new DataView(out.buffer);
  [0x46546c67, 2, out.length, a, JSON_CHUNK].forEach((value, i) => view.setUint32(i * 4, value, true));
  out.fill(0x20, 20, 20 + a).set(json, 20);
  view.setUint32(20 + a, b, true);
  view.setUint32(24 + a, BINARY_CHUNK, true);
  out.set(binary, 28 + a);
  return out;
}

const isGlb = (bytes: Uint8Array): boolean => bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;

function chunksOf(bytes: Uint8Array): { text: Uint8Array; binary: Uint8Array | null } {
  if (bytes.length < 20) fail('The GLB is cut short within its header.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  if (view.getUint32(4, true) !== 2) fail(`The GLB is of version ${view.getUint32(4, true)}; 2 was expected.`);
  let text: Uint8Array | null = null;
  let binary: Uint8Array | null = null;
  for (let at = 12, n = 0; at + 8 <= bytes.length; n++) {
    const length = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + length > bytes.length) {
      fail(`Chunk ${n} of the GLB says ${length} bytes and ${bytes.length - at - 8} are left: the file is cut short.`);
    }
    const chunk = bytes.subarray(at + 8, at + 8 + length);
    if (kind === JSON_CHUNK && n === 0) text = chunk;
    if (kind === BINARY_CHUNK && !binary) binary = chunk;
    at += 8 + length + ((4 - (length % 4)) % 4);
  }
  return text ? { text, binary } : fail('The first chunk of the GLB is not its JSON.');
}

function fromDataUri(uri: string): Uint8Array {
  const comma = uri.indexOf(',');
  if (comma < 0 || !uri.slice(0, comma).endsWith(';base64')) return fail('A buffer is given as data that is not base64.');
  try {
    return Uint8Array.from(atob(uri.slice(comma + 1)), (c) => c.charCodeAt(0));
  } catch {
    return fail('A buffer given as base64 has a character that base64 does not have.');
  }
}
