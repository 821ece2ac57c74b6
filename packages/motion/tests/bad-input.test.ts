import { InputError, readTakes } from '@lantern/motion';
import { bytesOf } from './made';
import { goodFiles, mutate, verdictOf } from './mutations';

const BVH = 'HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 3 Zrotation Xrotation Yrotation\n}\nMOTION\nFrames: 1\nFrame Time: 0.01\n0 0 0\n';

const refused = (bytes: Uint8Array, name: string): InputError => {
  try {
    readTakes(bytes, name);
  } catch (error) {
    if (error instanceof InputError) return error;
    throw error;
  }
  throw new Error('it was read');
};

// What nobody can mean is refused by counting, at the first one too many: the rest of the file is never looked at.
test('joints nested 100 000 deep are refused at the 401st', () => {
  const error = refused(bytesOf(`HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\n${'JOINT b\n{\nOFFSET 0 1 0\n'.repeat(100_000)}`), 'a.bvh');
  expect(error.message).toBe('Joints are nested more than 400 deep; no skeleton is.');
  expect(error.place.line).toBe(3 + 3 * 400);
});

test('a hundred thousand joints side by side are refused at the 10 001st brace', () => {
  const error = refused(bytesOf(`HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\n${'JOINT b\n{\nOFFSET 0 1 0\n}\n'.repeat(100_000)}`), 'a.bvh');
  expect(error.place.line).toBe(4 + 4 * 10_000 - 2);
});

test.each([
  ['nested 100 000 deep', `"extras":${'['.repeat(100_000)}${']'.repeat(100_000)}`, /nested more than 200 deep/],
  ['of a million nodes', `"nodes":[${'{},'.repeat(999_999)}{}],"animations":[]`, /more than 500000 objects/],
  ['of 300 000 nodes', `"nodes":[${'{},'.repeat(299_999)}{}],"animations":[]`, /300000 nodes; 200000 are the most/],
])('JSON %s is refused by its count', (_, content, sentence) => {
  expect(refused(bytesOf(`{"asset":{"version":"2.0"},${content}}`), 'a.gltf').message).toMatch(sentence);
});

test('braces in a name are no nesting', () => {
  const name = JSON.stringify('{"['.repeat(300));
  expect(refused(bytesOf(`{"asset":{"version":"2.0"},"nodes":[{"name":${name}}]}`), 'a.gltf').message).not.toMatch(/nested/);
});

test.each<[string, string, Uint8Array]>([
  ['a count of 10⁹ frames', 'a.bvh', bytesOf(BVH.replace('Frames: 1', 'Frames: 1000000000').replace('0 0 0\n', '0 0\n'))],
  ['not a number for a number', 'a.bvh', bytesOf(BVH.replace(/0 0 0\n$/, 'NaN 0 0\n'))],
  ['an infinite number', 'a.bvh', bytesOf(BVH.replace(/0 0 0\n$/, '1e999 0 0\n'))],
  ['a ZIP archive called .bvh', 'a.bvh', new Uint8Array([0x50, 0x4b, 3, 4, 20, 0, 0, 0])],
  ['a GLB of which only the header is there', 'a.glb', bytesOf('glTF\u0002\0\0\0\u00ff\0\0\0')],
  ['300 MB', 'a.bvh', new Uint8Array(300_000_000)],
  ['nothing', 'a.glb', new Uint8Array(0)],
])('%s is refused with a sentence', (_, name, bytes) => {
  expect(refused(bytes, name).message).toMatch(/[.]$/);
});

test('a hundred mutations of each kind of file are read as numbers or refused with a place, never anything else', async () => {
  for (const file of await goodFiles()) {
    for (let seed = 0; seed < 100; seed++) expect(verdictOf(file, mutate(file.bytes, seed))).toMatch(/^(read|refused)$/);
  }
});
