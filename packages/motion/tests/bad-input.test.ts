import { InputError, readTakes } from '@lantern/motion';
import { bytesOf } from './made';
import { goodFiles, mutate, verdictOf } from './mutations';

const BVH = 'HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 3 Zrotation Xrotation Yrotation\n}\nMOTION\nFrames: 1\nFrame Time: 0.01\n0 0 0\n';

test.each<[string, string, Uint8Array]>([
  [
    'a joint without a name nested 100 000 deep',
    'a.bvh',
    bytesOf(`HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\n${'JOINT b\n{\nOFFSET 0 1 0\n'.repeat(100_000)}`),
  ],
  ['JSON nested 100 000 deep', 'a.gltf', bytesOf(`{"asset":{"version":"2.0"},"extras":${'['.repeat(100_000)}${']'.repeat(100_000)}}`)],
  ['a million joints', 'a.gltf', bytesOf(`{"asset":{"version":"2.0"},"nodes":[${'{},'.repeat(999_999)}{}],"animations":[]}`)],
  ['a count of 10⁹ frames', 'a.bvh', bytesOf(BVH.replace('Frames: 1', 'Frames: 1000000000').replace('0 0 0\n', '0 0\n'))],
  ['not a number for a number', 'a.bvh', bytesOf(BVH.replace(/0 0 0\n$/, 'NaN 0 0\n'))],
  ['an infinite number', 'a.bvh', bytesOf(BVH.replace(/0 0 0\n$/, '1e999 0 0\n'))],
  ['a ZIP archive called .bvh', 'a.bvh', new Uint8Array([0x50, 0x4b, 3, 4, 20, 0, 0, 0])],
  ['a GLB of which only the header is there', 'a.glb', bytesOf('glTF\u0002\0\0\0\u00ff\0\0\0')],
  ['300 MB', 'a.bvh', new Uint8Array(300_000_000)],
  ['nothing', 'a.glb', new Uint8Array(0)],
])('%s is refused within two seconds, with a sentence', (_, name, bytes) => {
  const start = performance.now();
  try {
    readTakes(bytes, name);
    throw new Error('it was read');
  } catch (error) {
    expect(error).toBeInstanceOf(InputError);
    expect((error as InputError).message).toMatch(/[.]$/);
  }
  expect(performance.now() - start).toBeLessThan(2000);
});

test('a hundred mutations of each kind of file are read as numbers or refused with a place, never anything else', async () => {
  for (const file of await goodFiles()) {
    for (let seed = 0; seed < 100; seed++) expect(verdictOf(file, mutate(file.bytes, seed))).toMatch(/^(read|refused)$/);
  }
});
