import { capture } from '@lantern/capture';
import { shipSchema, writeBvh } from '@lantern/motion';
import { eq, like } from 'drizzle-orm';
import { saveClip } from '@/server/clips';
import { copyProject } from '@/server/copy-project';
import type { Database } from '@/server/database';
import { addCast } from '@/server/demo';
import { saveJoin } from '@/server/joins';
import { listProjects } from '@/server/list-projects';
import { beginProject, changeProject, findProject, firstProject, removeProject } from '@/server/projects';
import { purgeProjects } from '@/server/purge-projects';
import { clips, filePieces, joins, projects, takeChunks, takes } from '@/server/schema';
import { drain } from '@/server/ship/drain';
import { startShipment } from '@/server/ship/shipments';
import { importFile } from '@/server/takes';
import { clipSaveSchema } from '@/http/clip';
import { joinSaveSchema } from '@/http/join';
import { newProjectInput } from '@/http/projects';
import { randomUUID } from 'node:crypto';
import { freshDatabase } from './schema';

let database: Database;
let end: () => Promise<void>;
const bytes = new TextEncoder().encode(writeBvh(capture('walk', { seed: 5, seconds: 8 }).motion));

beforeAll(async () => ({ database, end } = await freshDatabase()));
afterAll(() => end());

const input = (name: string) => newProjectInput.parse({ name, character: 'Tallow', fps: 30 });
const row = async (id: string) => (await listProjects(database)).find((own) => own.id === id);

/** A project with a take and a clip of it. */
async function filled(name: string): Promise<string> {
  const id = await beginProject(database, input(name));
  const {
    takes: [take],
  } = await importFile(database, id, 'walk.bvh', bytes);
  const clip = clipSaveSchema.parse({
    name: 'stroll',
    source: { take: take.id, from: 100, to: 165 },
    steps: [{ kind: 'loop' }],
    revision: 0,
  });
  await saveClip(database, id, randomUUID(), clip);
  return id;
}

test('a project begins under an address of its own, and tells what is in it', async () => {
  const id = await filled('Ferry hands');
  expect(id).toBe('ferry-hands');
  expect(await beginProject(database, input('Ferry  hands!'))).toBe('ferry-hands-2');
  expect(await beginProject(database, input('Projects'))).toBe('projects-2');
  expect(await row(id)).toMatchObject({
    name: 'Ferry hands',
    character: 'Tallow',
    fps: 30,
    takes: 1,
    clips: 1,
    sets: 0,
    shipments: 0,
    removed: null,
  });
  const { seconds = 0, paths = [] } = (await row(id)) ?? {};
  expect(seconds).toBeCloseTo(8, 1);
  expect(paths).toHaveLength(1);
  expect(paths[0].length).toBeLessThanOrEqual(96);
  expect((await listProjects(database)).map((own) => own.id).slice(-1)).toEqual(['gullmouth']);
});

test.each([
  ['no name', { name: ' ', character: 'Wick', fps: 60 }, /Give it a name/],
  ['a name of a hundred letters', { name: 'o'.repeat(100), character: 'Wick', fps: 60 }, /longer than 80/],
  ['a rate that is none', { name: 'Quay', character: 'Wick', fps: 31 }, /One of 24, 25, 30, 50, 60, 120/],
])('%s is refused', (_, bad, says) => {
  expect(newProjectInput.safeParse(bad).error?.issues[0].message).toMatch(says);
});

test('one that is removed is not there, is told among those removed, and comes back as it was', async () => {
  const id = await filled('Lock keepers');
  expect(await removeProject(database, id)).toBe(true);
  expect(await removeProject(database, id)).toBe(false);
  expect(await findProject(database, id)).toBeNull();
  expect((await row(id))?.removed).toMatch(/^20/);
  expect(await beginProject(database, input('Lock keepers'))).toBe('lock-keepers-2');
  await changeProject(database, id, { removed: false });
  expect(await row(id)).toMatchObject({ takes: 1, clips: 1, removed: null });
  await removeProject(database, 'gullmouth');
  expect((await firstProject(database))?.id).not.toBe('gullmouth');
  await changeProject(database, 'gullmouth', { removed: false });
});

test('a copy hangs on nothing of the first, also where a clip is cut from what was removed; so the first can be deleted', async () => {
  const id = await filled('Sail loft');
  const [take] = await database.select().from(takes).where(eq(takes.project, id));
  const join = randomUUID();
  const pieces = [{ id: randomUUID(), take: take.id, from: 0, to: 60 }];
  await saveJoin(database, id, join, joinSaveSchema.parse({ name: 'round', pieces, start: 'origin', revision: 0 }));
  const clip = { name: 'of the join', source: { take: join, from: 5, to: 40 }, steps: [], revision: 0 };
  expect(await saveClip(database, id, randomUUID(), clipSaveSchema.parse(clip))).toMatchObject({ outcome: 'saved' });
  for (const table of [joins, takes]) await database.update(table).set({ removed: new Date() }).where(eq(table.project, id));
  const copy = await copyProject(database, id);
  const cut = await database.select({ take: clips.take, join: clips.join }).from(clips).where(eq(clips.project, copy));
  const own = [takes, joins].map((table) => database.select({ id: table.id }).from(table).where(eq(table.project, copy)));
  const ids = new Set((await Promise.all(own)).flat().map((row) => row.id));
  expect(cut).toHaveLength(2);
  expect(cut.filter((row) => !ids.has(row.take ?? row.join ?? ''))).toEqual([]);
  await database
    .update(projects)
    .set({ removed: new Date(0) })
    .where(eq(projects.id, id));
  await purgeProjects(database);
  expect(await row(id)).toBeUndefined();
  expect(await row(copy)).toMatchObject({ clips: 2 });
});

test('one that was removed long ago is deleted with all that is in it; what others have too stays with them', async () => {
  const id = await filled('Rope walk');
  await addCast(database, id);
  const queue = { insert: async () => {} };
  await startShipment(database, queue, id, shipSchema.parse({ fps: 30 }));
  await drain(database);
  const copy = await copyProject(database, id);
  const other = await row(copy);
  const held = await database.$count(filePieces);
  await removeProject(database, id);
  await purgeProjects(database);
  expect((await row(id))?.removed).toMatch(/^20/);
  await database
    .update(projects)
    .set({ removed: new Date(Date.now() - 31 * 86_400_000) })
    .where(eq(projects.id, id));
  await purgeProjects(database);
  expect(await row(id)).toBeUndefined();
  expect(await row(copy)).toEqual(other);
  expect(await database.$count(filePieces)).toBeLessThan(held);
  expect(await database.$count(filePieces, like(filePieces.file, `character ${id} %`))).toBe(0);
  // The file that the take came in is shared with the copy, whose motion is its own.
  expect(await database.$count(filePieces, like(filePieces.file, 'take %'))).toBe(1);
  const [{ id: take }] = await database.select({ id: takes.id }).from(takes).where(eq(takes.project, copy));
  expect(await database.$count(takeChunks, eq(takeChunks.take, take))).toBeGreaterThan(0);
});
