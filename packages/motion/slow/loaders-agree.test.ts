import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { findLoops, groundwork, makeClips, parseProject, readCharacter, type Character, type ShipOptionsInput } from '@lantern/motion';
import { readShippedPlaces } from '../tests/shipped-places';

type Library = 'three' | 'babylon' | 'assimp';
interface Loaded {
  clips: { name: string; duration: number; poses: Record<string, number[]>[] }[];
}

const takes = Object.fromEntries((['walk', 'jog', 'turn'] as const).map((id) => [id, capture(id, { seconds: 8, seed: 21 }).motion]));
let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lantern-'));
});
afterAll(() => rm(folder, { recursive: true }));

/** A set of a character, or of nobody, as it ships. */
async function shipped(ship: ShipOptionsInput, who: 'tallow' | null) {
  const clips = Object.entries(takes).map(([id, motion]) => {
    const ground = groundwork(motion);
    const found = ground && findLoops(ground).candidates.find(({ strides }) => strides === 1);
    const steps = [{ kind: 'clean' }, ...(found ? [{ kind: 'loop' }] : []), { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }];
    return { name: id, take: id, ...(found ?? { from: 100, to: 260 }), steps: who ? [{ kind: 'fit', character: who }, ...steps] : steps };
  });
  const characters = who ? [{ id: who, file: `${who}.glb` }] : [];
  const project = parseProject(
    JSON.stringify({ oldLantern: 1, takes: Object.keys(takes).map((id) => ({ id, file: `${id}.bvh` })), characters, clips, ship }),
  );
  const cast = new Map<string, Character>(who ? [[who, readCharacter(await castGlb(who), who)]] : []);
  const { files, report } = await makeClips(project, (id) => ({ motion: takes[id], warnings: [] }), cast);
  expect(report.guarantees?.filter(({ ok }) => !ok)).toEqual([]);
  const names = cast.get(who ?? '')?.skeleton.joints ?? takes.walk.skeleton.joints;
  return { bytes: files[0].bytes, joints: names.map(({ name }) => name) };
}

async function loadedBy(library: Library, file: string): Promise<Loaded> {
  const { stdout } = await promisify(execFile)('node', [join(process.cwd(), `e2e/loaders/with-${library}.mjs`), file], { maxBuffer: 1e8 });
  return JSON.parse(stdout.slice(stdout.lastIndexOf('\n{') + 1)) as Loaded;
}

// The third library reads neither the slopes of cubic keys nor rotations in 16 bits: these are held against the other two.
test.each<[string, ShipOptionsInput, 'tallow' | null, readonly Library[]]>([
  ['a key on every frame', {}, null, ['three', 'babylon', 'assimp']],
  ['a key on every frame, on a character with other axes', { fps: 30 }, 'tallow', ['three', 'babylon', 'assimp']],
  ['thinned straight', { thin: { joining: 'straight' } }, 'tallow', ['three', 'babylon', 'assimp']],
  ['thinned straight, in 16 bits', { thin: { joining: 'straight', quantised: true } }, null, ['three', 'babylon']],
  ['thinned by curves', { thin: {} }, 'tallow', ['three', 'babylon']],
  ['thinned by curves, in 16 bits, without last keys', { thin: { quantised: true }, lastKey: 'left out' }, null, ['three', 'babylon']],
])('general loaders agree on every pose of a set within 0.1 mm: %s', async (_, ship, who, libraries) => {
  const { bytes, joints } = await shipped(ship, who);
  const file = join(folder, 'set.glb');
  await writeFile(file, bytes);
  for (const library of libraries) {
    const { clips } = await loadedBy(library, file);
    expect(clips.map(({ name }) => name)).toEqual(Object.keys(takes));
    let worst = 0;
    for (const { name, duration, poses } of clips)
      poses.forEach((pose, i) => {
        const ours = readShippedPlaces(bytes, name, (duration * i) / 19.5);
        for (const joint of joints) {
          const [a, b] = [pose[joint], ours(joint)];
          worst = Math.max(worst, Math.hypot(...a.map((v, k) => v - b[k])));
        }
      });
    expect([library, worst < 1e-4, worst]).toEqual([library, true, worst]);
  }
});
