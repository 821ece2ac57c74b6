import { Document, WebIO } from '@gltf-transform/core';
import { minus, multiplyInverse, turned, type Quat, type Vec3 } from '@lantern/motion';
import type { Build } from './build';

/**
 * A character as one GLB: its joints in the bind pose, a skin with weights, coloured by vertex.
 *
 * @returns the file; the same bytes for the same build
 */
export async function characterGlb({ name, joints, flesh, axes }: Build): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Old Lantern';
  const buffer = document.createBuffer();
  const accessor = (array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>, type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4') =>
    document.createAccessor().setArray(array).setType(type).setBuffer(buffer);
  const turns = joints.map((joint): Quat => axes(joint));
  const number = new Map(joints.map((joint, j) => [joint.name, j]));
  const scene = document.createScene(name);
  const nodes = joints.map((joint) => document.createNode(joint.name));
  joints.forEach((joint, j) => {
    const p = joint.parent === null ? -1 : (number.get(joint.parent) ?? -1);
    const up: Quat = p < 0 ? [0, 0, 0, 1] : turns[p];
    const local = [0, 0, 0, 1];
    multiplyInverse(local, 0, up, 0, turns[j], 0);
    nodes[j]
      .setRotation([local[0], local[1], local[2], local[3]])
      .setTranslation([...turned(inverse(up), 0, minus(joint.at, p < 0 ? [0, 0, 0] : joints[p].at))]);
    (p < 0 ? scene : nodes[p]).addChild(nodes[j]);
  });
  const binds = new Float32Array(joints.length * 16);
  joints.forEach(({ at }, j) => {
    const back = inverse(turns[j]);
    const columns: Vec3[] = [
      turned(back, 0, [1, 0, 0]),
      turned(back, 0, [0, 1, 0]),
      turned(back, 0, [0, 0, 1]),
      turned(back, 0, minus([0, 0, 0], at)),
    ];
    columns.forEach((column, c) => binds.set([...column, c === 3 ? 1 : 0], j * 16 + c * 4));
  });
  const vertices = flesh.weights.length;
  const carried = new Uint16Array(vertices * 4);
  const weights = new Float32Array(vertices * 4);
  flesh.weights.forEach((shares, v) => {
    shares.forEach(([joint, weight], i) => {
      carried[v * 4 + i] = number.get(joint) ?? 0;
      weights[v * 4 + i] = weight;
    });
  });
  const material = document.createMaterial(`${name} cloth`).setRoughnessFactor(0.85).setMetallicFactor(0);
  const primitive = document
    .createPrimitive()
    .setMaterial(material)
    .setIndices(accessor(Uint16Array.from(flesh.indices), 'SCALAR'))
    .setAttribute('POSITION', accessor(Float32Array.from(flesh.positions), 'VEC3'))
    .setAttribute('NORMAL', accessor(Float32Array.from(flesh.normals), 'VEC3'))
    .setAttribute('COLOR_0', accessor(Float32Array.from(flesh.colours), 'VEC3'))
    .setAttribute('JOINTS_0', accessor(carried, 'VEC4'))
    .setAttribute('WEIGHTS_0', accessor(weights, 'VEC4'));
  const skin = document.createSkin(name).setSkeleton(nodes[0]).setInverseBindMatrices(accessor(binds, 'MAT4'));
  for (const node of nodes) skin.addJoint(node);
  scene.addChild(document.createNode(`${name} body`).setMesh(document.createMesh(name).addPrimitive(primitive)).setSkin(skin));
  return new WebIO().writeBinary(document);
}

const inverse = ([x, y, z, w]: Quat): Quat => [-x, -y, -z, w];
