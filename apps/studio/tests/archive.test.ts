import { randomUUID } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { make, parseProject, shipSchema } from '@lantern/motion';
import { validateGlb } from '@lantern/unpack';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { projectArchive } from '@/server/archive/export';
import { importArchive } from '@/server/archive/import';
import { copyProject } from '@/server/copy-project';
import { listClips } from '@/server/clips';
import type { Database } from '@/server/database';
import { addCast, loadDemo } from '@/server/demo';
import { listJoins } from '@/server/joins';
import { readPieces } from '@/server/pieces';
import { changeProject, findProject } from '@/server/projects';
import { listSets } from '@/server/sets';
import { drain } from '@/server/ship/drain';
import { madePieces } from '@/server/ship/pack-shipment';
import { listShipments, startShipment } from '@/server/ship/shipments';
import { zipStream } from '@/server/ship/zip-stream';
import { changeTake, listTakes } from '@/server/takes';
import { freshDatabase } from './schema';

const queue = { insert: async () => {} };
const ship = shipSchema.parse({ fps: 30, thin: {}, csv: true });
let database: Database;
let end: () => Promise<void>;
let folder: string;
let archive: Uint8Array;

async function archived(own: Database, project: string): Promise<Uint8Array> {
  const entries = await projectArchive(own, project);
  if (!entries) throw new Error('no project');
  const parts: Uint8Array[] = [];
  for (const reader = zipStream(entries).getReader(); ;) {
    const { done, value } = await reader.read();
    if (done) return Buffer.concat(parts);
    parts.push(value);
  }
}

/** What a project ships, by the names of its files. */
async function shippedFrom(own: Database, project: string): Promise<Map<string, Uint8Array>> {
  const id = await startShipment(own, queue, project, ship);
  await drain(own);
  const found = (await listShipments(own, project)).find((each) => each.id === id);
  if (found?.state !== 'done') throw new Error(found?.message ?? 'it did not arrive');
  const files = new Map<string, Uint8Array>();
  for (const { path, hash } of found.files) files.set(path, (await readPieces(own, madePieces(hash))) ?? new Uint8Array());
  return files;
}

async function kept(name: string, bytes: Uint8Array): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, bytes);
  return path;
}

function expectSame(a: ReadonlyMap<string, Uint8Array>, b: ReadonlyMap<string, Uint8Array>): void {
  expect([...b.keys()]).toEqual([...a.keys()]);
  for (const [path, bytes] of a)
    if (path !== 'report.json') expect([path, Buffer.compare(bytes, b.get(path) ?? new Uint8Array())]).toEqual([path, 0]);
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lantern-'));
  ({ database, end } = await freshDatabase());
  await addCast(database);
  await loadDemo(database);
  const [take] = await listTakes(database, 'gullmouth');
  await changeTake(database, take.id, { markers: [{ frame: 700, name: 'lamp' }], notes: 'By the post.' });
  archive = await archived(database, 'gullmouth');
}, 120_000);
afterAll(async () => {
  await end();
  await rm(folder, { recursive: true });
});

test('a project leaves as one archive: its project file, takes as they came, characters', async () => {
  const files = unzipSync(archive);
  expect(Object.keys(files).filter((path) => !path.startsWith('takes/'))).toEqual([
    'project.json',
    'characters/wick.glb',
    'characters/tallow.glb',
  ]);
  expect(Object.keys(files).filter((path) => path.startsWith('takes/'))).toHaveLength(8);
  expect(Buffer.from(files['takes/wick-rounds.bvh']).toString('utf8', 0, 9)).toBe('HIERARCHY');
  const project = parseProject(Buffer.from(files['project.json']).toString());
  expect(project).toMatchObject({
    name: 'Gullmouth',
    character: 'Wick',
    sets: [{ name: 'lamplighter' }],
    joins: [{ name: 'evening-round' }],
  });
  expect(project.takes[0]).toMatchObject({ id: 'wick-rounds', notes: 'By the post.', markers: [{ frame: 700, name: 'lamp' }] });
});

test('the same archive again is the same bytes', async () => {
  expect(Buffer.compare(await archived(database, 'gullmouth'), archive)).toBe(0);
});

test('in an empty database, and once more in this one, it ships the same bytes; and so does the command line from the folder', async () => {
  const own = await shippedFrom(database, 'gullmouth');
  const other = await freshDatabase();
  try {
    const id = await importArchive(other.database, await kept('project.zip', archive));
    // The name is taken there by the project that every database has.
    expect(id).toBe('gullmouth-2');
    expectSame(own, await shippedFrom(other.database, id));
  } finally {
    await other.end();
  }
  const beside = await importArchive(database, await kept('project.zip', archive));
  expectSame(own, await shippedFrom(database, beside));
  const files = unzipSync(archive);
  const project = parseProject(Buffer.from(files['project.json']).toString());
  const made = await make({ ...project, ship }, async (file) => files[file], { validate: validateGlb });
  expectSame(new Map([...own].filter(([path]) => path !== 'report.json')), new Map(made.files.map(({ path, bytes }) => [path, bytes])));
}, 180_000);

test('what came in is what left: takes, clips, joins, sets, in their order', async () => {
  const id = await importArchive(database, await kept('project.zip', archive));
  const about = async (project: string) => ({
    takes: (await listTakes(database, project)).map(({ name, tags, notes, star, markers, overrides, frames }) => ({
      name,
      tags,
      notes,
      star,
      markers,
      overrides,
      frames,
    })),
    clips: (await listClips(database, project)).map(({ name, source: { from, to }, steps, gait }) => ({ name, from, to, steps, gait })),
    joins: (await listJoins(database, project)).map(({ name, pieces }) => [name, pieces.length]),
    sets: (await listSets(database, project)).map(({ name, slots, contract, bounds, fields }) => ({
      name,
      slots: slots.length,
      contract,
      bounds,
      fields: fields.map((field) => [field.name, field.clips.length]),
    })),
  });
  expect(await about(id)).toEqual(await about('gullmouth'));
  const { name, character, fps, namePattern } = (await findProject(database, id)) ?? {};
  expect({ name, character, fps, namePattern }).toMatchObject({ name: 'Gullmouth', character: 'Wick', fps: 60 });
  const again = unzipSync(await archived(database, id));
  const first = unzipSync(archive);
  expect(Buffer.from(again['project.json']).toString()).toBe(Buffer.from(first['project.json']).toString());
});

test('a project that is duplicated leaves as the same archive, and a change of it is no change of the first', async () => {
  const before = await archived(database, 'gullmouth');
  const id = await copyProject(database, 'gullmouth');
  expect(await findProject(database, id)).toMatchObject({ name: 'Gullmouth 2', character: 'Wick', fps: 60 });
  await changeProject(database, id, { name: 'Gullmouth' });
  expect(Buffer.compare(await archived(database, id), archive)).toBe(0);
  const ids = async (project: string) =>
    [await listTakes(database, project), await listClips(database, project), await listJoins(database, project)]
      .flat()
      .map((own) => own.id);
  const [first, copy] = [new Set(await ids('gullmouth')), await ids(id)];
  expect(copy).toHaveLength(first.size);
  expect(copy.filter((own) => first.has(own))).toEqual([]);
  const [take] = await listTakes(database, id);
  await changeTake(database, take.id, { notes: 'Another.' });
  expect(Buffer.compare(await archived(database, 'gullmouth'), before)).toBe(0);
  await expect(copyProject(database, 'nowhere')).rejects.toThrow('not there any more');
});

test.each<[string, () => Uint8Array, RegExp]>([
  ['no archive', () => strToU8('HIERARCHY and so on, which is no archive at all'), /no archive/],
  ['an empty file', () => new Uint8Array(0), /empty/],
  ['one without a project file', () => zipSync({ 'a.txt': strToU8('a') }), /no project\.json/],
  ['one whose project file is broken', () => zipSync({ 'project.json': strToU8('{ "oldLantern": 1, ') }), /not valid JSON/],
  [
    'one in which a take is missing',
    () => zipSync({ 'project.json': unzipSync(archive)['project.json'] }),
    /“wick-rounds” is not in the archive: takes\/wick-rounds\.bvh is missing/,
  ],
])('%s is refused with a sentence, and nothing of it stays', async (_, bytes, says) => {
  const count = async () => (await listTakes(database, 'gullmouth')).length;
  const [before, projects] = [await count(), await projectsIn()];
  await expect(importArchive(database, await kept(`${randomUUID()}.zip`, bytes()))).rejects.toThrow(says);
  expect([await count(), await projectsIn()]).toEqual([before, projects]);
});

const projectsIn = async () => {
  const { projects } = await import('@/server/schema');
  return database.$count(projects);
};
