import { execFileSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { cutMotion, InputError, writeBvh, type Take } from '@lantern/motion';
import fc from 'fast-check';
import { asfAndAmc } from '../../../packages/motion/tests/odd-files';
import { inFile, inFileAsync, placeIn, readInput, readTakeFile, readTakeFiles, writeOutput } from '../src/files';

let folder = '';
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'lantern-'))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const at = (...parts: string[]) => join(folder, ...parts);
const put = (name: string, content: string | Uint8Array) => (writeFileSync(at(name), content), at(name));
const motion = cutMotion(capture('walk', { seconds: 1, seed: 9 }).motion, 0, 29);
/** What is refused, with the code, the sentence, and where. */
const refused = async (run: () => unknown) => {
  const error = await Promise.resolve()
    .then(run)
    .catch((thrown: unknown) => thrown);
  if (!(error instanceof InputError)) throw new Error(`not refused: ${String(error)}`);
  return { code: error.code, says: error.message, ...error.place };
};
const all = async (...files: string[]): Promise<{ file: string; takes: Take[] }[]> => {
  const read = [];
  for await (const one of readTakeFiles(files)) read.push(one);
  return read;
};

describe('what is read', () => {
  test('a file’s bytes, as they are', async () => {
    expect(new TextDecoder().decode(await readInput(put('a.txt', 'gulls')))).toBe('gulls');
  });

  test.each<[string, () => string, string, RegExp]>([
    ['a file that is not there', () => at('none.bvh'), 'unreadable', /no such file/],
    ['a folder', () => folder, 'folder', /is a folder/],
    ['a device', () => '/dev/zero', 'no-file', /device or a pipe/],
    ['a link that leads nowhere', () => (symlinkSync(at('gone'), at('link')), at('link')), 'unreadable', /no such file/],
    ['a file below a file', () => join(put('b.txt', 'x'), 'c.bvh'), 'unreadable', /ENOTDIR/],
  ])('%s is refused with its name and why', async (_, name, code, says) => {
    const file = name();
    const told = await refused(() => readInput(file));
    expect(told).toMatchObject({ code, file, line: 1 });
    expect(told.says).toMatch(says);
  });

  test('a pipe that nobody writes to is refused at once', async () => {
    execFileSync('mkfifo', [at('pipe')]);
    expect((await refused(() => readInput(at('pipe')))).code).toBe('no-file');
  });

  test('a file that is too large is refused by its size, without being read', async () => {
    const file = put('huge.bvh', '');
    truncateSync(file, 5e9);
    const told = await refused(() => readInput(file));
    expect(told.says).toMatch(/^The file has 5000 MB; \d+ MB is the most that is read\.$/);
  });

  test('a motion finds the skeleton that lies beside it; a broken one beside it is none of its business', async () => {
    const { asf, amc } = asfAndAmc(motion);
    mkdirSync(at('pier'));
    writeFileSync(at('pier', 'pier.asf'), asf);
    writeFileSync(at('pier', 'broken.asf'), ':version 1.10\n:root\norder nothing');
    writeFileSync(at('pier', 'pier_01.amc'), amc);
    const [{ takes }] = await all(at('pier', 'pier_01.amc'));
    expect(takes[0].motion.frames).toBe(30);
    // The broken one itself is refused where it is asked for.
    expect((await refused(() => all(at('pier', 'broken.asf')))).file).toBe(at('pier', 'broken.asf'));
  });

  test('skeletons that are given with motions are no takes of their own', async () => {
    const read = await all(at('pier', 'pier.asf'), at('pier', 'pier_01.amc'));
    expect(read.map(({ file }) => file)).toEqual([at('pier', 'pier_01.amc')]);
  });

  test('a glTF takes its buffers from beside it, and nothing from elsewhere', async () => {
    put('secret.bin', new Uint8Array(64));
    mkdirSync(at('scene'));
    for (const uri of ['../secret.bin', '/etc/hostname', 'deep/../../secret.bin', '%2e%2e/secret.bin', '%E0%A4%A']) {
      const json = { asset: { version: '2.0' }, buffers: [{ uri, byteLength: 64 }], nodes: [{ name: 'a' }], scenes: [{ nodes: [0] }] };
      writeFileSync(at('scene', 'way.gltf'), JSON.stringify(json));
      const told = await refused(() => all(at('scene', 'way.gltf')));
      expect(told.file).toBe(at('scene', 'way.gltf'));
    }
  });

  test('errors name the file that they are about, among several', async () => {
    const good = put('good.bvh', writeBvh(motion));
    const bad = put('bad.bvh', 'HIERARCHY\nROOT Hips\n{\n  OFFSET 0 0\n');
    const told = await refused(() => all(good, bad));
    expect(told).toMatchObject({ file: bad, line: 4 });
  });

  test('one take of a file is its first', async () => {
    expect((await readTakeFile(at('good.bvh'))).motion.frames).toBe(30);
  });
});

describe('what is written', () => {
  test('a place lies in its folder, whatever the name is made of', () => {
    const piece = fc.constantFrom('..', '.', '/', '\\', 'a', 'stroll', ' ', '\n', '\u0000', '%2e%2e', '~', 'C:');
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 8 }), (pieces) => {
        const name = pieces.join('');
        let place = '';
        try {
          place = placeIn(folder, name, 'The clip');
        } catch (error) {
          expect(error).toBeInstanceOf(InputError);
          return;
        }
        expect(place.startsWith(`${folder}/`)).toBe(true);
        expect(place).not.toMatch(/[\u0000-\u001f]/);
      }),
      { seed: 3, numRuns: 2000 },
    );
  });

  test.each(['../a.glb', '/a.glb', '', '.', 'a/../../b', 'name\n../../a', 'bell\u0007'])('%j does not lie in the folder', async (name) => {
    const told = await refused(() => placeIn(folder, name, 'The clip'));
    expect(told.code).toBe('outside');
    // What cannot be printed is not printed.
    expect(told.says).not.toMatch(/[\u0000-\u001f\u007f]/);
  });

  test('names with dots, spaces and folders are fine', () => {
    for (const name of ['..stroll.glb', 'a b/c.d.glb', '...', 'é/🏮.glb']) expect(placeIn(folder, name, 'x')).toBe(join(folder, name));
  });

  test('folders are made on the way', async () => {
    await writeOutput(at('one', 'two', 'three.csv'), 'a,b\n');
    expect(readFileSync(at('one', 'two', 'three.csv'), 'utf8')).toBe('a,b\n');
  });

  test.each<[string, () => string, RegExp]>([
    ['a folder', () => folder, /a folder is there/],
    ['below a file', () => join(put('f.txt', 'x'), 'a.glb'), /a part of its folder is a file/],
    ['a name that is too long', () => at('x'.repeat(300)), /its name is too long/],
  ])('%s cannot be written, and it is said', async (_, name, says) => {
    const file = name();
    const told = await refused(() => writeOutput(file, 'x'));
    expect(told).toMatchObject({ code: 'unwritable', file });
    expect(told.says).toMatch(says);
  });

  test('where nobody may write it is said, to those who are not above that', async () => {
    if (process.getuid?.() === 0) return;
    mkdirSync(at('shut'));
    chmodSync(at('shut'), 0o500);
    expect((await refused(() => writeOutput(at('shut', 'a'), 'x'))).says).toMatch(/nobody may write there/);
  });
});

test('an input error gets the file’s name and keeps its line; any other error is left alone', async () => {
  const fail = () => {
    throw new InputError('bvh', 'A channel is missing.', { line: 7 });
  };
  expect(await refused(() => inFile('a.bvh', fail))).toMatchObject({ file: 'a.bvh', line: 7 });
  expect(await refused(() => inFileAsync('a.bvh', async () => fail()))).toMatchObject({ file: 'a.bvh', line: 7 });
  // A file that an error names itself is nearer to the fault.
  const inner = () => inFile('b.bin', fail);
  expect(await refused(() => inFile('a.gltf', inner))).toMatchObject({ file: 'b.bin' });
  expect(() =>
    inFile('a', () => {
      throw new TypeError('ours');
    }),
  ).toThrow(TypeError);
});
