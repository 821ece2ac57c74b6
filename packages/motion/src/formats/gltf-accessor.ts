import { InputError } from '../error';
import { firstBeyond } from './first-beyond';
import type { Gltf } from './gltf-container';

const FLOAT = 5126;
const WIDTHS: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT4: 16 };
/** Bytes of a component, and what an integer is divided by when it is normalised. */
const COMPONENTS: Readonly<Record<number, { bytes: number; most: number; read: (view: DataView, at: number) => number }>> = {
  5120: { bytes: 1, most: 127, read: (view, at) => view.getInt8(at) },
  5121: { bytes: 1, most: 255, read: (view, at) => view.getUint8(at) },
  5122: { bytes: 2, most: 32767, read: (view, at) => view.getInt16(at, true) },
  5123: { bytes: 2, most: 65535, read: (view, at) => view.getUint16(at, true) },
  5125: { bytes: 4, most: 1, read: (view, at) => view.getUint32(at, true) },
  5126: { bytes: 4, most: 1, read: (view, at) => view.getFloat32(at, true) },
};

/**
 * The numbers of an accessor, normalised integers as fractions, sparse ones filled in.
 *
 * @returns `count · width` numbers
 * @throws InputError `gltf` when it reaches outside its buffer, or a number is not finite
 */
export function readAccessor(gltf: Gltf, index: number): Accessed {
  const known = READ.get(gltf) ?? { byIndex: new Map<number, Accessed>(), numbers: 0 };
  READ.set(gltf, known);
  const before = known.byIndex.get(index);
  if (before) return before;
  const found = read(gltf, index, MOST_NUMBERS - known.numbers);
  known.byIndex.set(index, found);
  known.numbers += found.values.length;
  return found;
}

interface Accessed {
  readonly values: Float64Array;
  readonly width: number;
  readonly count: number;
}

/** What has been read of a file: an accessor that a thousand samplers share is read once, and all together have a limit. */
const READ = new WeakMap<Gltf, { readonly byIndex: Map<number, Accessed>; numbers: number }>();
const MOST_NUMBERS = 60_000_000;

function read({ json, buffers }: Gltf, index: number, most: number): Accessed {
  const fail = (message: string): never => {
    throw new InputError('gltf', `Accessor ${index} ${message}`, { line: 1 });
  };
  const accessor = json.accessors[index] ?? fail('is missing.');
  const width = WIDTHS[accessor.type] ?? fail(`has the type "${accessor.type.slice(0, 20)}", which motion does not have.`);
  const component =
    COMPONENTS[accessor.componentType] ?? fail(`has the component type ${accessor.componentType}, which glTF does not have.`);
  const { count } = accessor;

  const viewOf = (bufferView: number) => {
    const view = json.bufferViews[bufferView] ?? fail(`points to buffer view ${bufferView}, which is missing.`);
    const packed = Object.keys(view.extensions ?? {}).find((name) => name.includes('compression'));
    if (packed) fail(`is compressed with ${packed}, which is not read: save the file without compression.`);
    const buffer = buffers[view.buffer] ?? fail(`lies in buffer ${view.buffer}, which is missing.`);
    if (view.byteOffset + view.byteLength > buffer.length) {
      fail(`reaches beyond the end of buffer ${view.buffer} (${buffer.length} bytes): the file is cut short.`);
    }
    return { data: new DataView(buffer.buffer, buffer.byteOffset + view.byteOffset, view.byteLength), stride: view.byteStride };
  };
  if (count * width > most) fail(`has a count of ${count}, more than is read of one file.`);
  const source = accessor.bufferView === undefined ? null : viewOf(accessor.bufferView);
  const stride = source?.stride ?? component.bytes * width;
  if (source && accessor.byteOffset + (count - 1) * stride + component.bytes * width > source.data.byteLength) {
    fail(`has a count of ${count}, for which its buffer view of ${source.data.byteLength} bytes is too short.`);
  }
  const isDense = source && !accessor.normalized && accessor.componentType === FLOAT && stride === component.bytes * width;
  const values = isDense ? floatsOf(source.data, accessor.byteOffset, count * width) : new Float64Array(count * width);
  const scale = accessor.normalized ? 1 / component.most : 1;
  const value = (data: DataView, at: number) => Math.max(accessor.normalized ? -1 : -Infinity, component.read(data, at) * scale);
  if (source && !isDense) {
    for (let i = 0; i < count; i++)
      for (let k = 0; k < width; k++) values[i * width + k] = value(source.data, accessor.byteOffset + i * stride + k * component.bytes);
  }
  if (accessor.sparse) {
    const { sparse } = accessor;
    if (sparse.count > count) fail(`replaces ${sparse.count} of ${count} values.`);
    const at = COMPONENTS[sparse.indices.componentType] ?? fail('has sparse indices of an unknown type.');
    const indices = viewOf(sparse.indices.bufferView).data;
    const fresh = viewOf(sparse.values.bufferView).data;
    if (
      sparse.indices.byteOffset + sparse.count * at.bytes > indices.byteLength ||
      sparse.values.byteOffset + sparse.count * width * component.bytes > fresh.byteLength
    ) {
      fail('has sparse values that reach beyond their buffer view.');
    }
    for (let i = 0; i < sparse.count; i++) {
      const target = at.read(indices, sparse.indices.byteOffset + i * at.bytes);
      if (target >= count) fail(`replaces value ${target} of ${count}.`);
      for (let k = 0; k < width; k++) {
        values[target * width + k] = value(fresh, sparse.values.byteOffset + (i * width + k) * component.bytes);
      }
    }
  }
  const bad = firstBeyond(values, Infinity);
  if (bad >= 0) fail(`has a number that is not finite, at value ${Math.floor(bad / width)}.`);
  return { values, width, count };
}

/** Single floats that lie one after the other, wherever they begin. */
function floatsOf(data: DataView, offset: number, count: number): Float64Array {
  const from = data.byteOffset + offset;
  return new Float64Array(new Float32Array(data.buffer.slice(from, from + count * 4)));
}
