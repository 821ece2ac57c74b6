import { randomUUID } from 'node:crypto';
import { captureDayTake } from '@lantern/capture';
import { slotId, writeBvh } from '@lantern/motion';
import { draftedSchema } from '@/http/draft';
import { newProjectInput } from '@/http/projects';
import { listClips, saveClip } from '@/server/clips';
import { copyProject } from '@/server/copy-project';
import type { Database } from '@/server/database';
import { addCast, DEMO, makeProject } from '@/server/demo';
import { DEMO_DAY, makeDemoDay } from '@/server/demo-day';
import { draftFor } from '@/server/draft-set';
import { beginProject, findProject } from '@/server/projects';
import { listSets, saveSet } from '@/server/sets';
import { projectDocument } from '@/server/ship/document';
import { importFile, importTake, listTakes } from '@/server/takes';
import { freshDatabase } from './schema';

let database: Database;
let end: () => Promise<void>;
let project: string;

beforeAll(async () => {
  ({ database, end } = await freshDatabase());
  project = await beginProject(database, newProjectInput.parse({ name: 'Quay', character: 'Wick', fps: 60 }));
});
afterAll(() => end());

const asked = { name: 'lamplighter', character: 'wick', slots: 'modest' as const, like: null };

test('without a take, or without its character, nothing is drafted, and it is said why', async () => {
  await expect(draftFor(database, project, asked)).rejects.toThrow('bring some in first');
  await importTake(database, project, 'wait.bvh', new TextEncoder().encode(writeBvh(captureDayTake('wait', 6).motion)));
  await expect(draftFor(database, project, asked)).rejects.toThrow('“wick” is not in the project');
});

test('a set is drafted from the takes of a project, goes into the database, and out of it under names', async () => {
  await addCast(database, project);
  for (const name of ['walk', 'turns'])
    await importTake(database, project, `${name}.bvh`, new TextEncoder().encode(writeBvh(captureDayTake(name, 6).motion)));
  const shares: number[] = [];
  const drafted = draftedSchema.parse(await draftFor(database, project, asked, (share) => shares.push(share)));
  expect(shares.at(-1)).toBeGreaterThan(0.9);
  const { clips, set, missing } = drafted;
  expect(clips.map(({ name }) => name)).toEqual(
    expect.arrayContaining(['wait', 'walk-forward', 'turn-left-90', 'turn-right-90', 'walk-start-right']),
  );
  expect(missing.map(({ slot }) => slot)).toContain('loop/jog/forward');
  const takes = await listTakes(database, project);
  for (const { source, steps } of clips) {
    expect(takes.map(({ id }) => id)).toContain(source.take);
    expect(steps.find(({ kind }) => kind === 'fit')).toMatchObject({ character: 'wick' });
  }
  // What names clips does so by their ids.
  const ids = new Set(clips.map(({ id }) => id));
  expect(ids.has(set.home?.clip ?? '')).toBe(true);
  for (const { clip } of set.draft?.choices ?? []) expect(clip === null || ids.has(clip)).toBe(true);
  for (const field of set.fields) for (const clip of field.clips) expect(ids.has(clip)).toBe(true);
  // Nothing is stored until somebody saves it.
  expect(await listClips(database, project)).toEqual([]);
  for (const clip of clips) expect((await saveClip(database, project, clip.id, { ...clip, revision: 0 })).outcome).toBe('saved');
  const { id, ...document } = set;
  expect((await saveSet(database, project, id, { ...document, revision: 0 })).outcome).toBe('saved');

  const file = await projectDocument(database, project);
  const own = file?.project.sets?.[0];
  expect(own?.draft?.choices.find(({ slot }) => slot === 'loop/walk/forward')).toMatchObject({
    clip: 'walk-forward',
    others: expect.arrayContaining([expect.objectContaining({ source: expect.objectContaining({ take: 'walk' }) })]),
  });
  expect(own?.home?.clip).toBe('wait');
  // A copy has choices of its own takes.
  const copy = await copyProject(database, project);
  const [copied] = await listSets(database, copy);
  const copiedTakes = new Set((await listTakes(database, copy)).map((take) => take.id));
  for (const { others } of copied.draft?.choices ?? []) for (const { source } of others) expect(copiedTakes.has(source.take)).toBe(true);
});

test('a set of the project gives its slots and numbers, and names that are there are not taken', async () => {
  const [model] = await listSets(database, project);
  const slots = model.slots.filter(({ kind }) => kind === 'idle' || kind === 'turn');
  const contract = { ...model.contract, speedMps: { walk: { forward: 1.2 } } };
  const few = randomUUID();
  await saveSet(database, project, few, { ...model, name: 'few', slots, contract, pins: {}, revision: 0, draft: undefined });
  const { clips, set } = await draftFor(database, project, { ...asked, like: few });
  expect(set.slots.map(slotId)).toEqual(slots.map(slotId));
  expect(set.contract.speedMps).toEqual({ walk: { forward: 1.2 } });
  expect(set.name).toBe('lamplighter-2');
  expect(clips.map(({ name }) => name)).toContain('wait-2');
});

test('the demo’s day is made beside the demo alone, gone on with where it was left, and not made twice', async () => {
  const fresh = await freshDatabase();
  const load = async (into: Database, id: string) => {
    for (const name of ['wait', 'walk'])
      await importFile(into, id, `${name}.bvh`, new TextEncoder().encode(writeBvh(captureDayTake(name, 6).motion)));
  };
  expect(await makeDemoDay(fresh.database, load)).toBe(false);
  await makeProject(fresh.database);
  await load(fresh.database, DEMO.id);
  const failing = async (into: Database, id: string) => {
    await load(into, id);
    throw new Error('the machine was switched off');
  };
  await expect(makeDemoDay(fresh.database, failing)).rejects.toThrow('switched off');
  expect((await findProject(fresh.database, DEMO_DAY.id))?.name).toBe('A day on the quay, being drafted');
  expect(await makeDemoDay(fresh.database, load)).toBe(true);
  expect((await findProject(fresh.database, DEMO_DAY.id))?.name).toBe('A day on the quay');
  expect((await listTakes(fresh.database, DEMO_DAY.id)).map(({ name }) => name)).toEqual(['wait', 'walk']);
  const [set] = await listSets(fresh.database, DEMO_DAY.id);
  const clips = new Set((await listClips(fresh.database, DEMO_DAY.id)).map(({ id }) => id));
  expect(set.draft?.choices.filter(({ clip }) => clip !== null && clips.has(clip)).length).toBe(clips.size);
  expect(clips.size).toBeGreaterThan(3);
  expect(await makeDemoDay(fresh.database, load)).toBe(false);
  await fresh.end();
});
