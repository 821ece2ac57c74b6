import { mkdir, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { findLoops, groundwork, cutMotion, writeBvh, type Project } from '@lantern/motion';
import { look } from '../src/watch';

let folder: string;
let project: string;
let options: Parameters<typeof look>[1];
const { motion } = capture('walk', { seconds: 10, seed: 5 });
const stride = (() => {
  const ground = groundwork(motion);
  const found = ground && findLoops(ground).candidates.find(({ strides, from }) => strides === 1 && from > 150);
  if (!found) throw new Error('nobody walks');
  return found;
})();

beforeEach(async () => {
  jest.spyOn(process.stderr, 'write').mockImplementation(() => true);
  folder = await mkdtemp(join(tmpdir(), 'lantern-'));
  project = join(folder, 'project.json');
  await mkdir(join(folder, 'takes'));
  await writeFile(join(folder, 'takes', 'walk.bvh'), writeBvh(motion));
  await writeFile(join(folder, 'takes', 'idle.bvh'), writeBvh(capture('idle', { seconds: 4, seed: 5 }).motion));
  await writeFile(
    project,
    JSON.stringify({
      oldLantern: 1,
      takes: [
        { id: 'walk', file: 'takes/walk.bvh', markers: [{ frame: stride.from + 10, name: 'lamp' }] },
        { id: 'idle', file: 'takes/idle.bvh' },
      ],
      clips: [
        { name: 'stroll', take: 'walk', from: stride.from, to: stride.to, steps: [{ kind: 'loop' }, { kind: 'travel', start: 'origin' }] },
        { name: 'wait', take: 'idle', from: 20, to: 120 },
      ],
      ship: { oneFilePerClip: true },
    }),
  );
  options = { project, out: join(folder, 'out'), once: true };
});
afterEach(async () => {
  jest.restoreAllMocks();
  await rm(folder, { recursive: true });
});

const written = async () =>
  JSON.parse(await readFile(project, 'utf8')) as Project & { clips: { name: string; from: number; to: number }[] };
const takes = () => join(folder, 'takes');

test('at the first look everything ships; at the next nothing does', async () => {
  const first = await look(takes(), options);
  expect(first.arrivals).toEqual([]);
  expect(first.report?.clips.map(({ name }) => name)).toEqual(['stroll', 'wait']);
  const before = await stat(join(folder, 'out', 'stroll.glb'));
  expect(await look(takes(), options)).toEqual({ arrivals: [], report: null, changed: [] });
  expect((await stat(join(folder, 'out', 'stroll.glb'))).mtimeMs).toBe(before.mtimeMs);
});

test('a new delivery of a take is found to be one: cuts and markers go along, and only what changed is written and named', async () => {
  await look(takes(), options);
  const idle = await stat(join(folder, 'out', 'wait.glb'));
  // The same performance solved anew: without the suit's faults, and begun forty frames later.
  const again = capture('walk', { seconds: 10, seed: 5, faults: 0 }).motion;
  await writeFile(join(takes(), 'walk.bvh'), writeBvh(cutMotion(again, 40, again.frames - 1)));
  const { arrivals, report } = await look(takes(), options);
  expect(arrivals).toMatchObject([{ outcome: 'redelivered', take: 'walk', clips: [{ name: 'stroll', outcome: 'moved' }] }]);
  const { clips, takes: all } = await written();
  expect(Math.abs(clips[0].from - (stride.from - 40))).toBeLessThanOrEqual(1);
  expect(clips[0].to - clips[0].from).toBe(stride.to - stride.from);
  expect(Math.abs((all[0].markers?.[0].frame ?? 0) - (stride.from + 10 - 40))).toBeLessThanOrEqual(1);
  expect(report?.written?.filter(({ state }) => state !== 'same').map(({ path }) => path)).toEqual(['stroll.glb']);
  expect((await stat(join(folder, 'out', 'wait.glb'))).mtimeMs).toBe(idle.mtimeMs);
});

test('a file that the project does not know becomes a take of it; one that cannot be read is left alone, and said', async () => {
  await look(takes(), options);
  await writeFile(join(takes(), 'jog.bvh'), writeBvh(capture('jog', { seconds: 3, seed: 5 }).motion));
  await writeFile(join(takes(), 'odd.bvh'), 'HIERARCHY\nROOT a\n{');
  const { arrivals, report } = await look(takes(), options);
  expect(arrivals.map(({ outcome, take }) => [outcome, take])).toEqual([
    ['new', 'jog'],
    ['refused', 'odd'],
  ]);
  expect((await written()).takes.map(({ id }) => id)).toEqual(['walk', 'idle', 'jog']);
  expect(report?.written?.every(({ state }) => state === 'same')).toBe(true);
});

test('somebody else under the name of a take is no new delivery of it: the project stays as it is', async () => {
  await look(takes(), options);
  const text = await readFile(project, 'utf8');
  await writeFile(join(takes(), 'walk.bvh'), writeBvh(capture('hop', { seconds: 6, seed: 9 }).motion));
  const { arrivals, report } = await look(takes(), options);
  expect(arrivals).toMatchObject([{ outcome: 'refused', take: 'walk' }]);
  expect(report).toBeNull();
  expect(await readFile(project, 'utf8')).toBe(text);
});

test('a file that is still being written to waits for the next look', async () => {
  const seen = new Map<string, number>();
  const watching = { ...options, once: false };
  await look(takes(), watching, seen);
  await look(takes(), watching, seen);
  await writeFile(join(takes(), 'jog.bvh'), writeBvh(capture('jog', { seconds: 3, seed: 5 }).motion));
  expect((await look(takes(), watching, seen)).arrivals).toEqual([]);
  expect((await look(takes(), watching, seen)).arrivals).toMatchObject([{ outcome: 'new', take: 'jog' }]);
});

test('runners-up of a drafted set go along with their take, and those that it does not have any more are gone', async () => {
  const other = (from: number, to: number) => ({ source: { take: 'walk', from, to }, steps: [{ kind: 'loop' }], why: 'as good' });
  const others = [other(stride.from, stride.to), other(0, 30), { ...other(20, 80), source: { take: 'idle', from: 20, to: 80 } }];
  const draft = { choices: [{ slot: 'idle', clip: 'wait', why: 'the only one', others }] };
  const text = JSON.parse(await readFile(project, 'utf8'));
  await writeFile(project, JSON.stringify({ ...text, sets: [{ name: 'lamplighter', slots: [{ kind: 'idle' }], draft }] }));
  await look(takes(), options);
  const again = capture('walk', { seconds: 10, seed: 5, faults: 0 }).motion;
  await writeFile(join(takes(), 'walk.bvh'), writeBvh(cutMotion(again, 40, again.frames - 1)));
  await look(takes(), options);
  const [choice] = (await written()).sets[0].draft?.choices ?? [];
  expect(choice.others.map(({ source }) => source.take)).toEqual(['walk', 'idle']);
  expect(Math.abs(choice.others[0].source.from - (stride.from - 40))).toBeLessThanOrEqual(1);
  expect(choice.others[1].source).toEqual({ take: 'idle', from: 20, to: 80 });
});
