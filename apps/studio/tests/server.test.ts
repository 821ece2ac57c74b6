import { clipSaveSchema, type ClipSave, type ClipSaveInput } from '@/http/clip';
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';

import { capture } from '@lantern/capture';
import {
  forwardKinematics,
  motionFromRows,
  readBvh,
  recipeSchema,
  stepSchema,
  writeBvh,
  type Motion,
  type TakePatch,
} from '@lantern/motion';
import { joinSaveSchema, type JoinSave } from '@/http/join';
import { projectDataSchema } from '@/http/project';
import { setSaveSchema, type SetSave } from '@/http/set';
import { listClips, removeClip, saveClip } from '@/server/clips';
import { listJoins, removeJoin, saveJoin } from '@/server/joins';
import { listSets, removeSet, saveSet } from '@/server/sets';
import { sql } from 'drizzle-orm';
import type { Database } from '@/server/database';
import { loadDemo } from '@/server/demo';
import { importStream, readOverview } from '@/server/long-takes';
import { changeProject, findProject, projectInput } from '@/server/projects';
import { removeTake, restoreTake } from '@/server/remove-take';
import { changeTake, importFile, importTake, listTakes, noteMade, readChunk, readMotionBytes, type TakeRow } from '@/server/takes';
import { asfAndAmc, oddGlb } from '../../../packages/motion/tests/odd-files';
import { freshDatabase } from './schema';

let database: Database;
let end: () => Promise<void>;
beforeAll(async () => {
  ({ database, end } = await freshDatabase());
});
afterAll(() => end());

const bytes = new TextEncoder().encode(writeBvh(capture('walk', { seconds: 15, seed: 2 }).motion));
/** The same take as a file that is not the same. */
let copies = 0;
const copy = () => new TextEncoder().encode(`${new TextDecoder().decode(bytes)}${'\n'.repeat(++copies)}`);
/** A take after a change that nobody disputes. */
async function changed(id: string, patch: TakePatch, before?: TakePatch): Promise<TakeRow> {
  const result = await changeTake(database, id, patch, before);
  if (result.outcome !== 'changed') throw new Error(result.outcome);
  return result.take;
}
const clip = (take: string, change: Partial<ClipSaveInput> & { from?: number; to?: number } = {}): ClipSave => {
  const { from = 100, to = 165, ...rest } = change;
  return clipSaveSchema.parse({ name: 'stroll', source: { take, from, to }, steps: [{ kind: 'loop' }], revision: 0, ...rest });
};

test('a take comes back from its chunks to the last bit', async () => {
  const row = await importTake(database, 'gullmouth', 'walk.bvh', bytes);
  expect(row.passport).toMatchObject({ joints: 21, frames: 901, units: { unit: 'cm' } });
  const stored = await readMotionBytes(database, row.id);
  const rows = new Float32Array(new Uint8Array(stored ?? []).buffer);
  const motion = motionFromRows(rows, row.skeleton, row.fps, row.moving);
  const original = readBvh(bytes, 'walk').motion;
  expect(motion.frames).toBe(original.frames);
  expect(Buffer.from(motion.rotations.buffer).equals(Buffer.from(original.rotations.buffer))).toBe(true);
  expect([...forwardKinematics(motion).positions.slice(-9)]).toEqual([...forwardKinematics(original).positions.slice(-9)]);
});

test('the same file sent six times at the same moment comes in once, whole or as a stream', async () => {
  const file = copy();
  const stream = async function* () {
    yield file;
  };
  const results = await Promise.all(
    [1, 2, 3, 4, 5, 6].map((n) =>
      n > 4 ? importStream(database, 'gullmouth', `${n}.bvh`, stream()) : importFile(database, 'gullmouth', `${n}.bvh`, file),
    ),
  );
  const [stored, ...more] = results.flatMap(({ takes }) => takes);
  expect(more).toEqual([]);
  expect(results.flatMap(({ duplicates }) => duplicates)).toEqual(Array.from({ length: 5 }, () => stored.name));
});

test('a stretch of a take is its chunks from one on, and no others', async () => {
  const { id } = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const [whole, stretch] = [await readMotionBytes(database, id), await readMotionBytes(database, id, 2, 3)];
  const row = (whole?.length ?? 0) / 901;
  expect(stretch?.equals(whole?.subarray(3 * 120 * row, 5 * 120 * row) ?? Buffer.alloc(0))).toBe(true);
});

test('a file that cannot be read leaves nothing behind', async () => {
  const before = (await listTakes(database, 'gullmouth')).length;
  await expect(importTake(database, 'gullmouth', 'bad.bvh', bytes.subarray(0, 50_000))).rejects.toMatchObject({ code: 'bvh-row' });
  expect(await listTakes(database, 'gullmouth')).toHaveLength(before);
});

test('the later of two saves from the same revision is told, and nothing is overwritten', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  expect(await saveClip(database, 'gullmouth', id, clip(take.id))).toMatchObject({ outcome: 'saved', clip: { revision: 1 } });
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 1, name: 'first' }))).toMatchObject({
    outcome: 'saved',
    clip: { revision: 2 },
  });
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 1, name: 'second' }))).toMatchObject({
    outcome: 'conflict',
    clip: { name: 'first', revision: 2 },
  });
  expect((await listClips(database, 'gullmouth')).find((c) => c.id === id)?.name).toBe('first');
  expect(await removeClip(database, 'gullmouth', id, 1)).toMatchObject({ outcome: 'conflict' });
});

test('two saves at the same moment: exactly one wins', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  const results = await Promise.all(
    ['a', 'b', 'c', 'd'].map((name) => saveClip(database, 'gullmouth', id, clip(take.id, { revision: 1, name }))),
  );
  expect(results.map((r) => r.outcome).sort()).toEqual(['conflict', 'conflict', 'conflict', 'saved']);
});

test('a removed clip comes back when its removal is undone; a cut outside its take is refused', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  expect(await removeClip(database, 'gullmouth', id, 1)).toMatchObject({ outcome: 'saved' });
  expect((await listClips(database, 'gullmouth')).some((c) => c.id === id)).toBe(false);
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 2 }))).toMatchObject({
    outcome: 'saved',
    clip: { revision: 3 },
  });
  expect(await saveClip(database, 'gullmouth', randomUUID(), clip(take.id, { to: 901 }))).toMatchObject({
    outcome: 'invalid',
    message: expect.stringMatching(/0 to 900/),
  });
});

test('a take with clips cannot be removed; one without can, and comes back', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  expect(await removeTake(database, take.id)).toBe('has-clips');
  await removeClip(database, 'gullmouth', id, 1);
  expect(await removeTake(database, take.id)).toBe('removed');
  expect((await listTakes(database, 'gullmouth')).some((t) => t.id === take.id)).toBe(false);
  expect(await restoreTake(database, take.id)).toBe(true);
  expect(await removeTake(database, randomUUID())).toBe('missing');
});

test('a join is saved from the revision that it started from, taken out, and comes back; its takes cannot be removed meanwhile', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  const join = (change: object = {}): JoinSave =>
    joinSaveSchema.parse({ name: 'round', pieces: [{ id: 'a', take: take.id, from: 10, to: 90 }], revision: 0, ...change });
  expect(await saveJoin(database, 'gullmouth', id, join())).toMatchObject({ outcome: 'saved', join: { revision: 1, start: 'origin' } });
  expect(await saveJoin(database, 'gullmouth', id, join({ revision: 1, name: 'evening' }))).toMatchObject({ join: { revision: 2 } });
  expect(await saveJoin(database, 'gullmouth', id, join({ revision: 1, name: 'morning' }))).toMatchObject({
    outcome: 'conflict',
    join: { name: 'evening', revision: 2 },
  });
  expect(await removeTake(database, take.id)).toBe('has-clips');
  expect(await removeJoin(database, 'gullmouth', id, 2)).toMatchObject({ outcome: 'saved' });
  expect((await listJoins(database, 'gullmouth')).some((own) => own.id === id)).toBe(false);
  expect(await saveJoin(database, 'gullmouth', id, join({ revision: 3 }))).toMatchObject({ outcome: 'saved', join: { revision: 4 } });
  expect((await listJoins(database, 'gullmouth')).find((own) => own.id === id)).toMatchObject({
    name: 'round',
    pieces: [{ take: take.id }],
  });
});

test('a clip can be cut from a join as from a take, and is saved, listed and taken out like any', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const [joinId, id] = [randomUUID(), randomUUID()];
  const refused = await saveClip(database, 'gullmouth', id, clip(joinId));
  expect(refused).toEqual({ outcome: 'invalid', message: 'What this clip is cut from is not in the project.' });
  const document = { name: 'round', pieces: [{ id: 'a', take: take.id, from: 10, to: 90 }] };
  await saveJoin(database, 'gullmouth', joinId, joinSaveSchema.parse({ ...document, revision: 0 }));
  // How long a join is follows from its pieces: only a cut without a frame is refused.
  expect(await saveClip(database, 'gullmouth', id, clip(joinId, { from: 5, to: 5000 }))).toMatchObject({ outcome: 'saved' });
  expect(await saveClip(database, 'gullmouth', id, clip(joinId, { from: 9, to: 9, revision: 1 }))).toMatchObject({
    outcome: 'invalid',
    message: 'The cut 9 to 9 has no frame.',
  });
  expect((await listClips(database, 'gullmouth')).find((own) => own.id === id)?.source).toEqual({ take: joinId, from: 5, to: 5000 });
  // It can be cut elsewhere, also from a take, and back.
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 1 }))).toMatchObject({ clip: { source: { take: take.id } } });
  expect(await removeTake(database, take.id)).toBe('has-clips');
  expect(await saveClip(database, 'gullmouth', id, clip(joinId, { revision: 2 }))).toMatchObject({ clip: { source: { take: joinId } } });
  await removeJoin(database, 'gullmouth', joinId, 1);
  expect(await saveClip(database, 'gullmouth', id, clip(joinId, { revision: 3 }))).toMatchObject({
    message: 'The join that this clip is cut from was removed: bring it back first.',
  });
  expect(await removeClip(database, 'gullmouth', id, 3)).toMatchObject({ outcome: 'saved' });
});

const set = (change: object = {}): SetSave =>
  setSaveSchema.parse({ name: 'lamplighter', slots: [{ kind: 'idle' }], revision: 0, ...change });

test('a set is saved from the revision that it started from, with its fields; taken out it comes back', async () => {
  const id = randomUUID();
  const fields = [{ id: 'f', name: 'jogs', clips: [randomUUID()] }];
  expect(await saveSet(database, 'gullmouth', id, set({ fields }))).toMatchObject({
    outcome: 'saved',
    set: { revision: 1, character: null },
  });
  expect(await saveSet(database, 'gullmouth', id, set({ revision: 1, name: 'wick' }))).toMatchObject({ set: { revision: 2, fields: [] } });
  expect(await saveSet(database, 'gullmouth', id, set({ revision: 1, name: 'tallow' }))).toMatchObject({
    outcome: 'conflict',
    set: { name: 'wick', revision: 2 },
  });
  expect(await removeSet(database, 'gullmouth', id, 2)).toMatchObject({ outcome: 'saved' });
  expect((await listSets(database, 'gullmouth')).map((own) => own.id)).not.toContain(id);
  expect(await saveSet(database, 'gullmouth', id, set({ revision: 3, fields }))).toMatchObject({ outcome: 'saved', set: { revision: 4 } });
  const found = (await listSets(database, 'gullmouth')).find((own) => own.id === id);
  expect(found?.fields).toMatchObject([{ name: 'jogs', inputs: ['speed', 'turn'], holdFeet: true }]);
});

test('of ten people who save a set at once one does, and the others are told what stands', async () => {
  const id = randomUUID();
  const all = await Promise.all(Array.from({ length: 10 }, (_, i) => saveSet(database, 'gullmouth', id, set({ name: `set ${i}` }))));
  expect(all.filter(({ outcome }) => outcome === 'saved')).toHaveLength(1);
  const [stands] = (await listSets(database, 'gullmouth')).filter((own) => own.id === id);
  for (const own of all) expect(own.set?.name).toBe(stands.name);
});

test('a set that is not as it should be is named, and everything else is there', () => {
  const whole = { ...set(), id: 'a', project: 'gullmouth', revision: 1, updated: new Date() };
  const project = { id: 'gullmouth', name: 'Gullmouth', character: 'Wick', fps: 60, namePattern: 'x', fitTo: '', settlesFloor: false };
  const rows = { takes: [], clips: [], joins: [], characters: [], fits: [] };
  const read = projectDataSchema.parse({
    project,
    ...rows,
    sets: [whole, { ...whole, id: 'b', name: 'bent', slots: [{ kind: 'dance' }] }],
  });
  expect(read.sets.map(({ id }) => id)).toEqual(['a']);
  expect(read.broken).toMatchObject([{ kind: 'set', name: 'bent' }]);
});

test('of ten people who save a join at once one does, and the others are told', async () => {
  const id = randomUUID();
  const save = (name: string) => saveJoin(database, 'gullmouth', id, joinSaveSchema.parse({ name, pieces: [], revision: 0 }));
  const all = await Promise.all(Array.from({ length: 10 }, (_, i) => save(`join ${i}`)));
  expect(all.filter(({ outcome }) => outcome === 'saved')).toHaveLength(1);
});

test('what a take was baked from is written down once', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const made = (name: string) => ({ join: { id: 'j', name, revision: 4 }, pieces: [] });
  await noteMade(database, take.id, made('round'));
  await noteMade(database, take.id, made('another'));
  const found = (await listTakes(database, 'gullmouth')).find(({ id }) => id === take.id);
  expect(found?.made).toEqual(made('round'));
});

test('the demo data is Wick’s takes, clips cut from them, a join of some, and his set', async () => {
  const own = await freshDatabase();
  try {
    await loadDemo(own.database);
    expect((await listTakes(own.database, 'gullmouth')).map((take) => take.name)).toEqual([
      'wick-rounds',
      'wick-stroll',
      'wick-jog',
      'wick-waiting',
      'wick-hop',
      'wick-hush',
      'wick-kerb',
      'wick-turns',
    ]);
    const clips = await listClips(own.database, 'gullmouth');
    expect(clips.map((c) => c.name).sort()).toEqual([
      ...['hop-rope', 'hush-forward', 'jog-arc-left', 'jog-arc-right', 'jog-forward', 'stroll-arc-left', 'stroll-arc-right'],
      ...['stroll-forward', 'stroll-start', 'stroll-stop', 'turn-left-180', 'turn-right-90', 'wait'],
    ]);
    const [set] = await listSets(own.database, 'gullmouth');
    expect(set.slots).toHaveLength(31);
    expect(clips.find(({ id }) => id === set.home?.clip)?.name).toBe('wait');
    expect(set.fields[0].clips.map((id) => clips.find((clip) => clip.id === id)?.name)).toContain('jog-arc-left');
    const [round] = await listJoins(own.database, 'gullmouth');
    expect(round.pieces.map((piece) => ('clip' in piece ? 'clip' : 'take'))).toEqual(['take', 'clip', 'clip', 'clip', 'take']);
  } finally {
    await own.end();
  }
});

const shortWalk = (): Motion => {
  const { motion } = capture('walk', { seconds: 1, seed: 4 });
  return { ...motion, frames: 30, rotations: motion.rotations.subarray(0, 30 * 84), rootPositions: motion.rootPositions.subarray(0, 90) };
};

test('the same content is not brought in twice, whatever it is called; removed, it may come again', async () => {
  const own = copy();
  const take = await importTake(database, 'gullmouth', 'once.bvh', own);
  expect(await importFile(database, 'gullmouth', 'twice.bvh', own)).toMatchObject({ takes: [], duplicates: ['once'] });
  await removeTake(database, take.id);
  expect((await importFile(database, 'gullmouth', 'twice.bvh', own)).takes).toHaveLength(1);
});

test('a skeleton is kept for its motions; every animation of a GLB is a take', async () => {
  const { asf, amc } = asfAndAmc(shortWalk());
  const encode = (text: string) => new TextEncoder().encode(text);
  await expect(importFile(database, 'gullmouth', 'day_01.amc', encode(amc))).rejects.toMatchObject({ code: 'no-skeleton' });
  expect(await importFile(database, 'gullmouth', 'day.asf', encode(asf))).toMatchObject({ takes: [], skeleton: 'day' });
  expect((await importFile(database, 'gullmouth', 'day_01.amc', encode(amc))).takes[0]).toMatchObject({
    name: 'day_01',
    passport: { format: 'asf-amc' },
  });
  const { takes } = await importFile(database, 'gullmouth', 'set.glb', await oddGlb(shortWalk(), { animations: 2, armature: true }));
  expect(takes.map(({ name }) => name)).toEqual(['set way 1', 'set way 2']);
});

test('what is overruled keeps the original, holds for the next take of the suit, and moves clips with the rate, there and back', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  const steps = recipeSchema.parse([
    { kind: 'loop', start: 11 },
    { kind: 'foot-lock', contacts: { left: [{ from: 10, to: 41 }], right: [] } },
    { kind: 'retime', frames: 75, pins: [{ from: 20, to: 25 }] },
  ]);
  await saveClip(database, 'gullmouth', id, clip(take.id, { from: 101, to: 161, steps }));
  const conformed = await changed(take.id, { overrides: { conform: 30, floorToZero: true }, star: true });
  expect(conformed).toMatchObject({ star: true, frames: 901, fps: 60, passport: { frames: 451, fps: 30 } });
  const stored = async () => (await listClips(database, 'gullmouth')).find((c) => c.id === id);
  expect(await stored()).toMatchObject({
    source: { from: 51, to: 81 },
    revision: 2,
    steps: [
      { kind: 'loop', start: 6 },
      { kind: 'foot-lock', contacts: { left: [{ from: 5, to: 21 }], right: [] } },
      { kind: 'retime', frames: 38, pins: [{ from: 10, to: 12.5 }] },
    ],
  });
  expect(await importTake(database, 'gullmouth', 'next.bvh', copy())).toMatchObject({ overrides: { conform: 30 }, passport: { fps: 30 } });
  expect(await changed(take.id, { overrides: {} })).toMatchObject({ passport: { frames: 901, fps: 60 } });
  expect(await stored()).toMatchObject({ source: { from: 101, to: 161 }, steps });
});

test('a take that arrives piece by piece is stored as the same take is at once; a bad one leaves nothing', async () => {
  const whole = await importTake(database, 'gullmouth', 'whole.bvh', copy());
  const pieces = async function* (all: Uint8Array) {
    for (let at = 0; at < all.length; at += 100_000) yield all.subarray(at, at + 100_000);
  };
  const { takes } = await importStream(database, 'gullmouth', 'streamed.bvh', pieces(copy()));
  expect(takes[0]).toMatchObject({
    name: 'streamed',
    frames: whole.frames,
    passport: { units: whole.passport.units, statureM: whole.passport.statureM },
  });
  for (const index of [0, 2]) {
    const [a, b] = await Promise.all([readChunk(database, takes[0].id, index), readChunk(database, whole.id, index)]);
    expect(a && b && a.equals(b)).toBe(true);
  }
  expect(await readOverview(database, takes[0].id)).toBeNull();
  const before = (await listTakes(database, 'gullmouth')).length;
  await expect(importStream(database, 'gullmouth', 'bad.bvh', pieces(bytes.subarray(0, 300_000)))).rejects.toMatchObject({
    code: 'bvh-row',
  });
  expect(await listTakes(database, 'gullmouth')).toHaveLength(before);
});

test('a project keeps the pattern of its names; a clip its gait and direction, empty until somebody says', async () => {
  expect(await findProject(database, 'gullmouth')).toMatchObject({ namePattern: '{character}-{gait}-{direction}' });
  expect(await changeProject(database, 'gullmouth', projectInput.parse({ namePattern: ' {gait}_{number} ' }))).toMatchObject({
    namePattern: '{gait}_{number}',
  });
  expect(await findProject(database, 'gullmouth')).toMatchObject({ namePattern: '{gait}_{number}' });
  expect(await changeProject(database, 'nowhere', { namePattern: 'x' })).toBeNull();
  expect(projectInput.safeParse({ namePattern: '  ' }).success).toBe(false);
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  expect(await saveClip(database, 'gullmouth', id, clip(take.id))).toMatchObject({ clip: { gait: '', direction: '' } });
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 1, gait: 'walk', direction: 'forward' }))).toMatchObject({
    clip: { gait: 'walk', direction: 'forward', revision: 2 },
  });
});

test('recipes and names that were stored before steps had ids are brought up to date', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  const old = [{ kind: 'travel' }, { kind: 'loop', seconds: 0.2 }, { kind: 'foot-lock' }];
  await database.execute(sql`update clips set name = ${'a/b: c'}, steps = ${JSON.stringify(old)}::jsonb where id = ${id}`);
  const migration = await readFile(new URL('../drizzle/0006_steps.sql', import.meta.url), 'utf8');
  for (const statement of migration.split('--> statement-breakpoint').slice(1)) await database.execute(sql.raw(statement));
  const [row] = (await listClips(database, 'gullmouth')).filter((c) => c.id === id);
  expect(row).toMatchObject({
    name: 'a-b- c',
    steps: [{ id: 'loop', kind: 'loop', seconds: 0.2 }, { id: 'foot-lock' }, { id: 'travel', kind: 'travel' }],
  });
  expect(recipeSchema.safeParse(row.steps).success).toBe(true);
});

test('forty tags from two sides at once are forty tags; markers are kept by frame; of the same notes the later is told', async () => {
  const { id } = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  await Promise.all(
    Array.from({ length: 40 }, (_, n) =>
      changeTake(database, id, { tags: [`tag ${n}`], markers: [{ frame: n, name: `at ${n}` }] }, { tags: [], markers: [] }),
    ),
  );
  const [row] = (await listTakes(database, 'gullmouth')).filter((take) => take.id === id);
  expect([...row.tags].sort()).toEqual(Array.from({ length: 40 }, (_, n) => `tag ${n}`).sort());
  expect(row.markers).toHaveLength(40);
  const notes = await Promise.all(['gulls', 'rope'].map((text) => changeTake(database, id, { notes: text }, { notes: '' })));
  expect(notes.map(({ outcome }) => outcome).sort()).toEqual(['changed', 'conflict']);
  const told = notes.find(({ outcome }) => outcome === 'conflict');
  expect(told).toMatchObject({ fields: ['notes'], take: { notes: expect.stringMatching(/gulls|rope/) } });
});

test('contacts set by hand are what they were after conforming there and back, also from two sides at once', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  const lock = stepSchema.parse({ kind: 'foot-lock', contacts: { left: [{ from: 1, to: 31 }], right: [{ from: 33, to: 61 }] } });
  await saveClip(database, 'gullmouth', id, clip(take.id, { steps: [lock] }));
  const stepsNow = async () => (await listClips(database, 'gullmouth')).find((c) => c.id === id)?.steps;
  const whole = await stepsNow();
  for (const conform of [24, 25, 48, 7]) {
    await changed(take.id, { overrides: { conform } });
    await changed(take.id, { overrides: {} });
    expect([conform, await stepsNow()]).toEqual([conform, whole]);
  }
  await Promise.all([25, 30, 48, 24].map((conform) => changeTake(database, take.id, { overrides: { conform } })));
  await changed(take.id, { overrides: {} });
  expect(await stepsNow()).toEqual(whole);
  expect((await listClips(database, 'gullmouth')).find((c) => c.id === id)?.source).toMatchObject({ from: 100, to: 165 });
});

test('pieces of joins, and clips that are cut from those, go with the rate of what they come from, there and back', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const other = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const [clipId, joinId, topId, withinId] = Array.from({ length: 4 }, () => randomUUID());
  await saveClip(database, 'gullmouth', clipId, clip(take.id));
  const pieces = [
    {
      id: 'a',
      take: take.id,
      from: 21,
      to: 141,
      into: { frames: 19 },
      marks: [{ at: 33, name: 'sets off' }],
      shifts: [{ at: 61, frames: 17, raise: 0.2 }],
    },
    { id: 'b', clip: clipId, times: 2.5 },
    { id: 'c', take: other.id, from: 21, to: 141 },
  ];
  const save = (id: string, name: string, of: object[], revision = 0) =>
    saveJoin(database, 'gullmouth', id, joinSaveSchema.parse({ name, pieces: of, revision }));
  await save(joinId, 'round', pieces);
  await saveClip(database, 'gullmouth', withinId, clip(joinId, { from: 31, to: 95 }));
  await save(topId, 'on top', [{ id: 'd', clip: withinId, from: 3, to: 41 }]);
  const now = async () => {
    const all = await listJoins(database, 'gullmouth');
    const [join, top] = [joinId, topId].map((id) => all.find((own) => own.id === id));
    const within = (await listClips(database, 'gullmouth')).find(({ id }) => id === withinId);
    return { pieces: join?.pieces, top: top?.pieces, source: within?.source, revision: join?.revision };
  };
  const { revision: _, ...before } = await now();
  await changed(take.id, { overrides: { conform: 30 } });
  const half = await now();
  expect(half.pieces).toMatchObject([
    { from: 11, to: 71, into: { frames: 10 }, marks: [{ at: 17 }], shifts: [{ at: 31, frames: 9, raise: 0.2 }] },
    { clip: clipId, times: 2.5, into: { frames: 9 } },
    { from: 21, to: 141 },
  ]);
  expect(half.top).toMatchObject([{ from: 2, to: 21 }]);
  expect(half.source).toEqual({ take: joinId, from: 16, to: 48 });
  expect(half.revision).toBe(2);
  await changed(take.id, { overrides: { conform: 25 } });
  await changed(take.id, { overrides: {} });
  const { revision, ...after } = await now();
  expect(after).toEqual(before);
  // What was changed at the other rate stays where it was put.
  await changed(take.id, { overrides: { conform: 30 } });
  await save(joinId, 'round', [{ ...pieces[0], from: 40, to: 80 }, ...pieces.slice(1)], (revision ?? 0) + 1);
  await changed(take.id, { overrides: {} });
  expect((await now()).pieces).toMatchObject([{ from: 80, to: 160 }, { clip: clipId }, { from: 21, to: 141 }]);
});

test('a clip does not come back while the take that it is cut from is removed', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', copy());
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  await removeClip(database, 'gullmouth', id, 1);
  await removeTake(database, take.id);
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 2 }))).toMatchObject({
    outcome: 'invalid',
    message: expect.stringContaining('bring it back first'),
  });
  await restoreTake(database, take.id);
  expect(await saveClip(database, 'gullmouth', id, clip(take.id, { revision: 2 }))).toMatchObject({ outcome: 'saved' });
});
