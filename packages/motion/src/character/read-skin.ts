import { normalsOf } from './normals';
import { RADIANS } from '../math/angles';
import { InputError, type Warning } from '../error';
import { readAccessor } from '../formats/gltf-accessor';
import { rotationOf } from '../formats/gltf-affine';
import type { Gltf } from '../formats/gltf-container';
import type { JointNodes } from '../formats/gltf-joints';
import { angleBetween, multiply, multiplyInverse, type Vec3 } from '../math/quat';
import { cross, inner, minus, norm, plus, times, turned, vecAt } from '../math/vec';
import type { CharacterSkin } from './character';

/** More vertices than this are no character of a game. */
const MOST_VERTICES = 1_000_000;
/** A joint that stands this much off its bind pose is worth a word, radians. */
const OFF_BIND = RADIANS;
const PLAIN = [0.5, 0.36, 0.22];

interface Kept {
  /** Joints of the file's skeleton that the character keeps, in order. */
  readonly kept: readonly number[];
  readonly metresPerUnit: number;
}

/** A mesh as it is put together, plain numbers: three for a place, normal and colour, four joints and weights to a vertex. */
interface Drawn {
  readonly positions: number[];
  readonly normals: number[];
  readonly colours: number[];
  readonly indices: number[];
  readonly joints: number[];
  readonly weights: number[];
}

/** Where the vertices of a skin go: whose its joints are, and what brings a place to the pose that all skins share. */
interface Placing {
  readonly jointOf: (n: number) => number;
  readonly intoCommon: ReturnType<typeof betweenSkins>;
  readonly scale: number;
}

type Primitive = Gltf['json']['meshes'][number]['primitives'][number];

/**
 * The skinned meshes of a file as one, four joints to a vertex (the strongest, if there are more), and how the joints stood when it was bound.
 *
 * @param world matrices of all nodes at rest, twelve numbers each
 */
export function readSkin(
  gltf: Gltf,
  joints: JointNodes,
  world: Float64Array,
  { kept, metresPerUnit }: Kept,
  warnings: Warning[],
): CharacterSkin {
  const { json } = gltf;
  const own = ownJoints(joints, kept);
  const binds = bindMatrices(gltf, own, kept.length);
  const hips = joints.nodes[kept[0]];
  const size = (m: ArrayLike<number>, i: number) => Math.hypot(m[i + 3], m[i + 4], m[i + 5]);
  const hipsBind = binds[0];
  const scale = metresPerUnit * (hipsBind ? size(world, hips * 12) / size(hipsBind, 0) : 1);
  const parts: Drawn = { positions: [], normals: [], colours: [], indices: [], joints: [], weights: [] };
  for (const { mesh, skin } of json.nodes) {
    const list = skin === undefined ? undefined : json.skins[skin]?.joints;
    if (mesh === undefined || !list) continue;
    const into: Placing = { jointOf: (n) => own(list[n] ?? -1).joint, intoCommon: betweenSkins(gltf, skin ?? 0, own, binds), scale };
    for (const primitive of json.meshes[mesh]?.primitives ?? []) addPrimitive(parts, gltf, primitive, into);
  }
  if (parts.indices.length === 0) throw new InputError('character', 'The skin has no triangles with joints and weights.', { line: 1 });
  const { positions: bindPositions, rotations: bindRotations, off } = bindPose(joints, kept, world, binds, scale, metresPerUnit);
  if (off > OFF_BIND) {
    warnings.push({
      code: 'bind-pose',
      message: `Its joints stand up to ${Math.round((off * 180) / Math.PI)}° off the pose it was skinned in; the pose it was skinned in is taken as reference.`,
    });
  }
  return {
    positions: Float32Array.from(parts.positions),
    normals: Float32Array.from(parts.normals),
    colours: Float32Array.from(parts.colours),
    indices: Uint32Array.from(parts.indices),
    joints: Uint16Array.from(parts.joints),
    weights: Float32Array.from(parts.weights),
    bindPositions,
    bindRotations,
  };
}

/** Triangles with joints and weights, added to what there is; anything else is passed over. */
function addPrimitive(parts: Drawn, gltf: Gltf, { attributes, indices, material, mode }: Primitive, placing: Placing): void {
  if (mode !== 4 || attributes.POSITION === undefined || attributes.JOINTS_0 === undefined || attributes.WEIGHTS_0 === undefined) return;
  const positions = readAccessor(gltf, attributes.POSITION);
  const first = parts.positions.length / 3;
  if (first + positions.count > MOST_VERTICES)
    throw new InputError('character', `The skin has more than ${MOST_VERTICES} vertices.`, { line: 1 });
  const faces = indices === undefined ? Array.from({ length: positions.count }, (_, i) => i) : [...readAccessor(gltf, indices).values];
  if (faces.some((v) => v >= positions.count))
    throw new InputError('character', 'A face of the skin names a vertex that is not there.', { line: 1 });
  const normals = attributes.NORMAL === undefined ? normalsOf(positions.values, faces) : readAccessor(gltf, attributes.NORMAL).values;
  addColours(parts, gltf, attributes, material, positions.count);
  const carried = [0, 1]
    .filter((n) => attributes[`JOINTS_${n}`] !== undefined && attributes[`WEIGHTS_${n}`] !== undefined)
    .map((n) => ({
      joints: readAccessor(gltf, attributes[`JOINTS_${n}`]).values,
      weights: readAccessor(gltf, attributes[`WEIGHTS_${n}`]).values,
    }));
  for (let v = 0; v < positions.count; v++) {
    const shares = carried
      .flatMap((set) => [0, 1, 2, 3].map((k) => ({ joint: placing.jointOf(set.joints[v * 4 + k]), weight: set.weights[v * 4 + k] })))
      .sort((a, b) => b.weight - a.weight)
      .slice(0, 4);
    const sum = shares.reduce((total, { weight }) => total + weight, 0) || 1;
    for (const { joint, weight } of shares) {
      parts.joints.push(joint);
      parts.weights.push(weight / sum);
    }
    const into = placing.intoCommon(shares, sum);
    for (const value of into(vecAt(positions.values, v), 1)) parts.positions.push(value * placing.scale);
    const normal = into(vecAt(normals, v), 0);
    const length = norm(normal) || 1;
    for (const value of normal) parts.normals.push(value / length);
  }
  for (const v of faces) parts.indices.push(first + v);
}

/** The material's tint times what the vertices are painted with. */
function addColours(parts: Drawn, gltf: Gltf, { COLOR_0 }: Primitive['attributes'], material: number | undefined, count: number): void {
  const tint = (material === undefined ? undefined : gltf.json.materials[material]?.pbrMetallicRoughness?.baseColorFactor) ?? [
    ...(COLOR_0 === undefined ? PLAIN : [1, 1, 1]),
    1,
  ];
  const painted = COLOR_0 === undefined ? null : readAccessor(gltf, COLOR_0);
  for (let v = 0; v < count; v++)
    for (let k = 0; k < 3; k++) parts.colours.push(tint[k] * (painted ? painted.values[v * painted.width + k] : 1));
}

type OwnJoint = (node: number) => { readonly joint: number; readonly isItself: boolean };

/** From a node to the joint of the character that it is, or hangs from; whatever is above the hips goes with them. */
function ownJoints({ nodes, parents }: JointNodes, kept: readonly number[]): OwnJoint {
  const number = new Map(kept.map((j, i) => [j, i]));
  const place = new Map(nodes.map((n, j) => [n, j]));
  return (node) => {
    const itself = place.get(node) ?? -1;
    for (let j = itself; j >= 0; j = parents[j]) {
      const joint = number.get(j);
      if (joint !== undefined) return { joint, isItself: j === itself };
    }
    return { joint: 0, isItself: false };
  };
}

/** Where each joint stood when the skin was bound: the inverse of its inverse bind matrix, twelve numbers; null for one that no skin has. */
function bindMatrices(gltf: Gltf, own: OwnJoint, count: number): (Float64Array | null)[] {
  const out: (Float64Array | null)[] = new Array(count).fill(null);
  for (const { joints, inverseBindMatrices } of gltf.json.skins) {
    if (inverseBindMatrices === undefined) continue;
    const { values } = readAccessor(gltf, inverseBindMatrices);
    joints.forEach((node, i) => {
      const { joint, isItself } = own(node);
      if (!out[joint] && isItself && (i + 1) * 16 <= values.length) out[joint] = inverted(values.subarray(i * 16, i * 16 + 16));
    });
  }
  return out;
}

type Shares = readonly { readonly joint: number; readonly weight: number }[];

/**
 * From the space of one skin's vertices to that of all: a file may bind each mesh in a space of its own, moved, scaled or posed otherwise. A skin
 * whose joints are bound as all are changes nothing.
 */
function betweenSkins(
  gltf: Gltf,
  skin: number,
  own: OwnJoint,
  binds: readonly (Float64Array | null)[],
): (shares: Shares, sum: number) => (v: Vec3, isPlace: 0 | 1) => Vec3 {
  const { joints, inverseBindMatrices } = gltf.json.skins[skin];
  const maps = new Map<number, Float64Array>();
  let differs = false;
  const values = inverseBindMatrices === undefined ? new Float64Array(0) : readAccessor(gltf, inverseBindMatrices).values;
  joints.forEach((node, i) => {
    const { joint, isItself } = own(node);
    const bind = binds[joint];
    if (!bind || !isItself || (i + 1) * 16 > values.length) return;
    const map = composed(bind, values.subarray(i * 16, i * 16 + 16));
    maps.set(joint, map);
    differs ||= map.some((v, k) => Math.abs(v - (k % 4 === 0 && k < 9 ? 1 : 0)) > 1e-4);
  });
  if (!differs) return () => (v) => v;
  return (shares, sum) => (v, isPlace) =>
    shares.reduce<Vec3>(
      (out, { joint, weight }) => {
        const map = maps.get(joint);
        const moved = map ? through(map, v, isPlace) : v;
        return plus(out, times(moved, weight / sum));
      },
      [0, 0, 0],
    );
}

/** An affine map of three columns and a place after another of 4 × 4 columns, as three columns and a place. */
function composed(a: Float64Array, b: Float64Array): Float64Array {
  const column = (i: number, isPlace: 0 | 1) => through(a, [b[i], b[i + 1], b[i + 2]], isPlace);
  return Float64Array.from([...column(0, 0), ...column(4, 0), ...column(8, 0), ...column(12, 1)]);
}

const through = (m: Float64Array, [x, y, z]: Vec3, isPlace: 0 | 1): Vec3 => [
  m[0] * x + m[3] * y + m[6] * z + isPlace * m[9],
  m[1] * x + m[4] * y + m[7] * z + isPlace * m[10],
  m[2] * x + m[5] * y + m[8] * z + isPlace * m[11],
];

/** The inverse of an affine map of 4 × 4 columns, as three columns and a place. */
function inverted(m: Float64Array): Float64Array | null {
  const [x, y, z, t] = [0, 4, 8, 12].map((i): Vec3 => [m[i], m[i + 1], m[i + 2]]);
  const rows = [cross(y, z), cross(z, x), cross(x, y)];
  const det = x[0] * rows[0][0] + x[1] * rows[0][1] + x[2] * rows[0][2];
  if (Math.abs(det) < 1e-30) return null;
  const apply = (v: Vec3): Vec3 => times([inner(rows[0], v), inner(rows[1], v), inner(rows[2], v)], 1 / det);
  return Float64Array.from([...apply([1, 0, 0]), ...apply([0, 1, 0]), ...apply([0, 0, 1]), ...apply(minus([0, 0, 0], t))]);
}

/** The bind pose in metres; joints that no skin has stand to their parents as they do at rest. */
function bindPose(
  { nodes, parents }: JointNodes,
  kept: readonly number[],
  world: Float64Array,
  binds: readonly (Float64Array | null)[],
  scale: number,
  metresPerUnit: number,
) {
  const number = new Map(kept.map((j, i) => [j, i]));
  const positions = new Float64Array(kept.length * 3);
  const rotations = new Float64Array(kept.length * 4);
  const rest = new Float64Array(kept.length * 4);
  kept.forEach((j, i) => {
    const n = nodes[j];
    rotationOf(rest, i * 4, world, n * 12);
    const bind = binds[i];
    const p = number.get(parents[j]) ?? -1;
    if (bind) {
      rotationOf(rotations, i * 4, bind, 0);
      for (let k = 0; k < 3; k++) positions[i * 3 + k] = bind[9 + k] * scale;
      return;
    }
    const atRest: Vec3 = minus(vecAt(world.subarray(n * 12 + 9), 0), p < 0 ? [0, 0, 0] : vecAt(world.subarray(nodes[kept[p]] * 12 + 9), 0));
    const local = [0, 0, 0, 1];
    if (p >= 0) multiplyInverse(local, 0, rest, p * 4, rest, i * 4);
    if (p >= 0) multiply(rotations, i * 4, rotations, p * 4, local, 0);
    else rotations.set(rest.subarray(0, 4), i * 4);
    const back = p < 0 ? [0, 0, 0, 1] : [-rest[p * 4], -rest[p * 4 + 1], -rest[p * 4 + 2], rest[p * 4 + 3]];
    const offset = turned(p < 0 ? back : rotations.subarray(p * 4, p * 4 + 4), 0, turned(back, 0, atRest));
    for (let k = 0; k < 3; k++) positions[i * 3 + k] = (p < 0 ? 0 : positions[p * 3 + k]) + offset[k] * metresPerUnit;
  });
  let off = 0;
  const expected = [0, 0, 0, 1];
  // The whole may be turned; only joints against each other count.
  const whole = [0, 0, 0, 1];
  multiply(whole, 0, rest, 0, [-rotations[0], -rotations[1], -rotations[2], rotations[3]], 0);
  kept.forEach((_, i) => {
    multiply(expected, 0, whole, 0, rotations, i * 4);
    off = Math.max(off, angleBetween(expected, 0, rest, i * 4));
  });
  return { positions, rotations, off };
}
