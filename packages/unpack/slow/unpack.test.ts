import { Logger, WebIO, type Document } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { draco, meshopt, quantize } from '@gltf-transform/functions';
import { castGlb } from '@lantern/cast';
import { forwardKinematics, InputError, readCharacter, readTake, restMotion, skinned, type Character } from '@lantern/motion';
import { unpackGlb } from '@lantern/unpack';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder, MeshoptEncoder } from 'meshoptimizer';
import { capture } from '@lantern/capture';
import { oddGlb } from '../../motion/tests/odd-files';
import { farthest } from '../../motion/tests/made';

const io = async () =>
  new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({
    'meshopt.decoder': MeshoptDecoder,
    'meshopt.encoder': MeshoptEncoder,
    'draco3d.encoder': await draco3d.createEncoderModule(),
    'draco3d.decoder': await draco3d.createDecoderModule(),
  });
const packed = async (bytes: Uint8Array, ...how: Parameters<Document['transform']>) => {
  const document = await (await io()).readBinary(bytes);
  document.setLogger(new Logger(Logger.Verbosity.SILENT));
  await document.transform(...how);
  return (await io()).writeBinary(document);
};
beforeAll(async () => {
  await Promise.all([MeshoptDecoder.ready, MeshoptEncoder.ready]);
});

/** The vertices of a character at rest. */
function atRest({ skeleton, skin }: Character): Float32Array {
  const { positions, rotations } = forwardKinematics(restMotion(skeleton));
  return skinned(skin, { positions: Float64Array.from(positions), rotations: Float64Array.from(rotations) });
}

/** The greatest distance of a skin's vertices from those of another, by the nearest one: packing may order them anew. */
function apart(a: Float32Array, b: Float32Array): number {
  let most = 0;
  for (let v = 0; v < a.length; v += 30) {
    let least = Infinity;
    for (let w = 0; w < b.length; w += 3) least = Math.min(least, Math.hypot(...[0, 1, 2].map((k) => a[v + k] - b[w + k])));
    most = Math.max(most, least);
  }
  return most;
}

test.each([
  ['quantised', () => [quantize()]],
  ['packed by meshopt', () => [meshopt({ encoder: MeshoptEncoder, level: 'medium' })]],
  ['packed by Draco', () => [draco()]],
] as const)('a character %s is the plain one: joints, parts and skin', async (_, how) => {
  const plain = readCharacter(await castGlb('tallow'), 'tallow');
  const small = await packed(await castGlb('tallow'), ...how());
  const found = readCharacter(await unpackGlb(small), 'tallow');
  expect(found.skeleton.joints.map(({ name }) => name)).toEqual(plain.skeleton.joints.map(({ name }) => name));
  expect(found.parts).toEqual(plain.parts);
  expect(found.statureM).toBeCloseTo(plain.statureM, 2);
  expect(apart(atRest(found), atRest(plain))).toBeLessThan(0.002);
});

test('a take whose keys are packed is the take', async () => {
  const { motion } = capture('walk', { seconds: 2, seed: 3 });
  const glb = await oddGlb(motion, { plain: true });
  const plain = readTake(glb, 'walk.glb').motion;
  const small = await packed(glb, meshopt({ encoder: MeshoptEncoder, level: 'medium' }));
  expect(small.length).toBeLessThan(glb.length);
  const found = readTake(await unpackGlb(small), 'walk.glb').motion;
  expect(found.frames).toBe(plain.frames);
  expect(farthest(found, plain)).toBeLessThan(0.002);
});

test('a file that packs nothing, or is no GLB, comes back as it is; a damaged one is refused with a sentence', async () => {
  const bytes = await castGlb('wick');
  expect(await unpackGlb(bytes)).toBe(bytes);
  const text = new TextEncoder().encode('HIERARCHY');
  expect(await unpackGlb(text)).toBe(text);
  const small = await packed(bytes, draco());
  const hurt = small.slice();
  hurt.fill(0x5a, hurt.length - Math.floor(hurt.length / 3));
  await expect(unpackGlb(hurt)).rejects.toThrow(InputError);
});

test('a character of two meshes, each with a skin of its own in a space of its own, is the one', async () => {
  const plain = readCharacter(await castGlb('wick'), 'wick');
  const document = await (await io()).readBinary(await castGlb('wick'));
  const root = document.getRoot();
  const [mesh] = root.listMeshes();
  const [skin] = root.listSkins();
  const node = root.listNodes().find((other) => other.getMesh() === mesh);
  // The same mesh again, all its places ten times as large and a metre aside, and a skin that undoes that.
  const [primitive] = mesh.listPrimitives();
  const own = primitive.clone();
  const position = primitive.getAttribute('POSITION')?.clone();
  const places = position?.getArray();
  if (!position || !places || !node) throw new Error('no mesh');
  position.setArray(Float32Array.from(places as ArrayLike<number>, (v, i) => v * 10 + (i % 3 === 0 ? 1 : 0)));
  own.setAttribute('POSITION', position);
  const binds = skin.getInverseBindMatrices()?.clone();
  const matrices = binds?.getArray();
  if (!binds || !matrices) throw new Error('no skin');
  const undone = Float32Array.from(matrices as ArrayLike<number>, (v, i) => {
    const [column, row] = [Math.floor((i % 16) / 4), i % 4];
    if (row === 3) return v;
    return column < 3 ? v / 10 : v - matrices[i - 12] / 10;
  });
  const other = document.createSkin('other').setInverseBindMatrices(binds.setArray(undone)).setSkeleton(skin.getSkeleton());
  for (const joint of skin.listJoints()) other.addJoint(joint);
  const more = document.createNode('more').setMesh(document.createMesh().addPrimitive(own)).setSkin(other);
  root.listScenes()[0].addChild(more);
  const found = readCharacter(await (await io()).writeBinary(document), 'wick');
  expect(found.skin.positions.length).toBe(2 * plain.skin.positions.length);
  expect(found.statureM).toBeCloseTo(plain.statureM, 3);
  expect(apart(atRest(found), atRest(plain))).toBeLessThan(0.001);
});
