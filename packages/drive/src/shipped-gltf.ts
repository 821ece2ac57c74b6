import type { ShippedAnimation, ShippedNode } from './read-shipped';

/** What of a glTF document holds nodes and animations. */
export interface GltfJson {
  readonly nodes: readonly {
    readonly name?: string;
    readonly children?: readonly number[];
    readonly translation?: readonly number[];
    readonly rotation?: readonly number[];
  }[];
  readonly animations?: readonly {
    readonly name?: string;
    readonly channels: readonly { readonly sampler: number; readonly target: { readonly node?: number; readonly path: string } }[];
    readonly samplers: readonly { readonly input: number; readonly output: number; readonly interpolation?: string }[];
  }[];
  readonly accessors: readonly {
    readonly bufferView?: number;
    readonly byteOffset?: number;
    readonly componentType: number;
    readonly normalized?: boolean;
    readonly count: number;
    readonly type: string;
  }[];
  readonly bufferViews: readonly { readonly byteOffset?: number; readonly byteStride?: number }[];
}

const SIZES: Readonly<Record<string, number>> = { SCALAR: 1, VEC3: 3, VEC4: 4 };
/** Component types of keys: 32-bit floats, and 16-bit numbers that stand for −1 to 1. */
const [FLOAT, SHORT] = [5126, 5122];

/**
 * Nodes and animations of a glTF file as arrays. Nodes are listed as in the file.
 *
 * @param buffer its binary
 * @throws Error with a sentence when keys are of a kind that is never shipped
 */
export function shippedGltf(
  json: GltfJson,
  buffer: ArrayBuffer,
): { readonly nodes: ShippedNode[]; readonly animations: ShippedAnimation[] } {
  const parents = json.nodes.map(() => -1);
  json.nodes.forEach(({ children = [] }, i) => children.forEach((child) => (parents[child] = i)));
  const name = (i: number): string => json.nodes[i].name ?? `node ${i}`;
  const read = (index: number): Float32Array => {
    const { bufferView = 0, byteOffset = 0, componentType, count, type } = json.accessors[index];
    const view = json.bufferViews[bufferView];
    const size = SIZES[type];
    if (!size || (componentType !== FLOAT && componentType !== SHORT))
      throw new Error(`Keys are of kind ${type} ${componentType}, which is never shipped.`);
    const bytes = componentType === FLOAT ? 4 : 2;
    const stride = view.byteStride ?? size * bytes;
    const data = new DataView(buffer, (view.byteOffset ?? 0) + byteOffset);
    const out = new Float32Array(count * size);
    for (let i = 0; i < count; i++)
      for (let k = 0; k < size; k++) {
        const at = i * stride + k * bytes;
        out[i * size + k] = componentType === FLOAT ? data.getFloat32(at, true) : Math.max(-1, data.getInt16(at, true) / 32767);
      }
    return out;
  };
  return {
    nodes: json.nodes.map(({ translation = [0, 0, 0], rotation = [0, 0, 0, 1] }, i) => ({
      name: name(i),
      parent: parents[i],
      translation,
      rotation,
    })),
    animations: (json.animations ?? []).map(({ name: own = '', channels, samplers }) => ({
      name: own,
      tracks: channels.flatMap(({ sampler, target: { node, path } }) => {
        if (node === undefined || (path !== 'translation' && path !== 'rotation')) return [];
        const { input, output, interpolation } = samplers[sampler];
        return [
          {
            node: name(node),
            of: path as 'translation' | 'rotation',
            times: read(input),
            values: read(output),
            cubic: interpolation === 'CUBICSPLINE',
          },
        ];
      }),
    })),
  };
}
