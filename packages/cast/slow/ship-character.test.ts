import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { capture } from '@lantern/capture';
import { castGlb, tallow } from '@lantern/cast';
import {
  clipFigures,
  findLoops,
  forwardKinematics,
  groundwork,
  glbChunks,
  make,
  parseProject,
  readCharacter,
  readGlb,
  recipeRunner,
  stepSchema,
  worldMotion,
  writeBvh,
  writeCharacterGlb,
} from '@lantern/motion';
import { validateBytes } from 'gltf-validator';
import { underArmature } from '../tests/odd-characters';

const { motion } = capture('walk', { seed: 8, seconds: 8, fps: 60, faults: 1 });
const found = groundwork(motion);
const [loop] = found ? findLoops(found).candidates : [];
const steps = [{ kind: 'fit', character: 'tallow' }, { kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }].map(
  (step) => stepSchema.parse(step),
);

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lantern-'));
});
afterAll(() => rm(folder, { recursive: true }));

interface Loaded {
  clips: { name: string; duration: number; poses: Record<string, number[]>[] }[];
}

/** A file's animations as a general loader poses them. */
async function loadedBy(library: 'three' | 'babylon', bytes: Uint8Array): Promise<Loaded> {
  const file = join(folder, `${library}.glb`);
  await writeFile(file, bytes);
  const { stdout } = await promisify(execFile)('node', [join(process.cwd(), `e2e/loaders/with-${library}.mjs`), file], { maxBuffer: 1e8 });
  return JSON.parse(stdout.slice(stdout.lastIndexOf('\n{') + 1)) as Loaded;
}

const jsonOf = (bytes: Uint8Array) => JSON.parse(new TextDecoder().decode(glbChunks(bytes).json)) as Record<string, object[]>;

describe('a character is shipped', () => {
  test.each<[string, () => Promise<Uint8Array>, readonly ('three' | 'babylon')[]]>([
    ['as it is', () => castGlb('tallow'), ['three', 'babylon']],
    ['under a scaled armature that lies down, with nodes between', () => underArmature(tallow()), ['three']],
  ])('%s: joints where they are here, in general loaders; nodes, skin and meshes untouched', async (_, make, libraries) => {
    const before = await make();
    const character = readCharacter(before, 'tallow');
    const clip = recipeRunner(motion, new Map([['tallow', character]]))({ ...loop, steps });
    const bytes = writeCharacterGlb([{ name: 'stroll', clip }], character);
    const report = await validateBytes(bytes);
    expect(report.issues.messages.filter((message) => message.severity < 2)).toEqual([]);
    const [was, is] = [jsonOf(before), jsonOf(bytes)];
    for (const part of ['nodes', 'skins', 'meshes', 'scenes', 'materials']) expect(is[part]).toEqual(was[part]);
    expect(is.accessors.slice(0, was.accessors.length)).toEqual(was.accessors);
    const world = worldMotion(clip);
    const { positions } = forwardKinematics(world);
    for (const library of libraries) {
      const [loaded] = (await loadedBy(library, bytes)).clips;
      expect(loaded.name).toBe('stroll');
      // At the first instant, where nothing is between keys.
      const pose = loaded.poses[0];
      let worst = 0;
      world.skeleton.joints.forEach(({ name }, j) => {
        const p = pose[name];
        worst = Math.max(worst, Math.hypot(...[0, 1, 2].map((k) => p[k] - positions[j * 3 + k])));
      });
      expect(worst).toBeLessThan(0.0001);
    }
  });

  test('its travel goes to its own root, and its feet stand as measured from the file', async () => {
    const character = readCharacter(await castGlb('tallow'), 'tallow');
    const clip = recipeRunner(motion, new Map([['tallow', character]]))({ ...loop, steps });
    const [back] = await readGlb(writeCharacterGlb([{ name: 'stroll', clip }], character));
    const [own, read] = [clipFigures(clip), clipFigures(back.clip)];
    // A shorter leg is slower by as much.
    const legs = 0.626 / 0.868;
    expect(own?.speedMps).toBeCloseTo(1.3 * legs, 1);
    expect(read?.speedMps).toBeCloseTo(own?.speedMps ?? 0, 3);
    expect(read?.slideCm).toBeLessThan(0.2);
    expect(read?.tick).toBeLessThan(1.2);
    expect(back.clip.travel).not.toBeNull();
  });
});

describe('a project file with characters', () => {
  const project = (change: object = {}) =>
    parseProject(
      JSON.stringify({
        oldLantern: 1,
        takes: [{ id: 'walk', file: 'walk.bvh' }],
        characters: [
          { id: 'tallow', file: 'tallow.glb' },
          { id: 'wick', file: 'wick.glb' },
        ],
        fits: [{ character: 'tallow', travel: 'legs', mapping: { source: { leftToes: [] } } }],
        clips: [
          { name: 'stroll', take: 'walk', from: loop.from, to: loop.to, steps },
          {
            name: 'wick-stroll',
            take: 'walk',
            from: loop.from,
            to: loop.to,
            steps: [{ kind: 'fit', character: 'wick' }, { kind: 'loop' }, { kind: 'travel' }],
          },
        ],
        ...change,
      }),
    );
  const read = async (file: string) =>
    file === 'walk.bvh' ? new TextEncoder().encode(writeBvh(motion)) : castGlb(file === 'wick.glb' ? 'wick' : 'tallow');

  test('is made into a file for each character, with its own skin', async () => {
    const { files, report } = await make(project(), read);
    expect(files.map(({ path }) => path)).toEqual(['tallow/set.glb', 'wick/set.glb']);
    expect(report.clips.map(({ character, file }) => [character, file])).toEqual([
      ['tallow', 'tallow/set.glb'],
      ['wick', 'wick/set.glb'],
    ]);
    expect(readCharacter(files[0].bytes, 'again').statureM).toBeCloseTo(1.5, 2);
    // The other is not held once its loop is closed.
    expect(report.clips[0].slideCm).toBeLessThan(0.2);
  });

  test('says which clip is fitted to nobody', () => {
    expect(() => project({ characters: [] })).toThrow(/"stroll" is fitted to "tallow"/);
  });
});
