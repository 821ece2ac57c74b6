import { randomUUID } from 'node:crypto';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { readCharacter, stepSchema, writeBvh, type FitOverrides } from '@lantern/motion';
import { eq, sql } from 'drizzle-orm';
import type PgBoss from 'pg-boss';
import { importCharacter, listCharacters, listFits, removeCharacter, saveFit } from '@/server/characters';
import { saveClip } from '@/server/clips';
import type { Database } from '@/server/database';
import { beat, claim, DEAD_AFTER, finish, fitFile, MOST_TRIES, newestRun, openBoss, sweep, startRun, stopRun } from '@/server/fit-jobs';
import { log } from '@/server/log';
import { runFit } from '@/server/run-fit';
import { fitJobs, takes } from '@/server/schema';
import { importTake } from '@/server/takes';
import { freshDatabase } from './schema';

let database: Database;
let end: () => Promise<void>;
let take: string;
let signature: string;
let boss: PgBoss;
beforeAll(async () => {
  const fresh = await freshDatabase();
  database = fresh.database;
  boss = await openBoss(fresh.url);
  end = async () => {
    await boss.stop({ graceful: false });
    await fresh.end();
  };
  const bytes = new TextEncoder().encode(writeBvh(capture('walk', { seconds: 5, seed: 2 }).motion));
  ({ id: take, signature } = await importTake(database, 'gullmouth', 'walk.bvh', bytes));
  await importCharacter(database, 'gullmouth', 'Tallow.glb', await castGlb('tallow'));
});
afterAll(() => end());

/** The queue itself, which notes what is put into it; told to, it loses its connection instead. */
const queued: string[] = [];
let isCut = false;
const queue: Parameters<typeof startRun>[1] = {
  insert: async (jobs) => {
    if (isCut) throw Object.assign(new Error('Connection terminated unexpectedly'), { code: 'ECONNRESET' });
    for (const { data, expireInSeconds } of jobs) {
      if (data && 'id' in data) queued.push(String(data.id));
      // A long take is fitted for minutes; the queue must not give it to a second worker meanwhile.
      expect(expireInSeconds).toBeGreaterThanOrEqual(900);
    }
    await boss.insert(jobs);
  },
};
/** As if some time had gone by since a row was written. */
const later = (id: string) =>
  database
    .update(fitJobs)
    .set({ created: new Date(Date.now() - 60_000) })
    .where(eq(fitJobs.id, id));

/** Lets a job's worker be dead for as long as it takes. */
const die = (id: string) =>
  database
    .update(fitJobs)
    .set({ beat: new Date(Date.now() - (DEAD_AFTER + 1) * 1000) })
    .where(eq(fitJobs.id, id));

test('a character is read, kept once, and stays while clips are fitted to it', async () => {
  const again = await importCharacter(database, 'gullmouth', 'same.glb', await castGlb('tallow'));
  expect(again).toMatchObject({ id: 'tallow', facts: { joints: 43, warnings: [] } });
  expect(await listCharacters(database, 'gullmouth')).toHaveLength(1);
  await expect(importCharacter(database, 'gullmouth', 'bad.glb', new Uint8Array(40))).rejects.toMatchObject({ code: 'gltf' });
  await importCharacter(database, 'gullmouth', 'Wick.glb', await castGlb('wick'));
  const steps = [stepSchema.parse({ kind: 'fit', character: 'wick' })];
  await saveClip(database, 'gullmouth', randomUUID(), {
    name: 'fitted',
    source: { take, from: 0, to: 60 },
    steps,
    gait: '',
    direction: '',
    revision: 0,
  });
  expect(await removeCharacter(database, 'gullmouth', 'wick')).toBe('has-clips');
});

test('what is settled for a suit and a character is one row, the last word', async () => {
  await saveFit(database, 'gullmouth', { source: signature, character: 'tallow', settings: { soleCm: 1 } });
  await saveFit(database, 'gullmouth', { source: signature, character: 'tallow', settings: { curlDeg: 5 } });
  expect(await listFits(database, 'gullmouth')).toEqual([{ source: signature, character: 'tallow', settings: { curlDeg: 5 } }]);
  await expect(saveFit(database, 'gullmouth', { source: signature, character: 'nobody', settings: {} })).rejects.toMatchObject({
    code: 'missing',
  });
});

test('six characters of one name at once get six names; two sides that change a fit lose nothing of each other', async () => {
  const glb = await castGlb('wick');
  // The same body in six files that differ in a byte behind their end.
  const files = Array.from({ length: 6 }, (_, n) => Buffer.concat([glb, Buffer.alloc(4 * (n + 1))]));
  const made = await Promise.all(files.map((bytes) => importCharacter(database, 'gullmouth', 'Gull.glb', bytes)));
  expect(new Set(made.map(({ id }) => id)).size).toBe(6);
  const save = (settings: FitOverrides, before?: FitOverrides) =>
    saveFit(database, 'gullmouth', { source: 'two sides', character: 'tallow', settings, before });
  await save({ soleCm: 1 });
  await Promise.all([
    save({ soleCm: 1, curlDeg: 9 }, { soleCm: 1 }),
    save({ soleCm: 1, give: 0.5 }, { soleCm: 1 }),
    save({}, { soleCm: 1 }),
  ]);
  const settings = async () => (await listFits(database, 'gullmouth')).find(({ source }) => source === 'two sides')?.settings;
  expect(await settings()).toEqual({ curlDeg: 9, give: 0.5 });
  expect(await save({ curlDeg: 2 }, { curlDeg: 1 })).toMatchObject({
    outcome: 'conflict',
    fields: ['curlDeg'],
    fit: { settings: { curlDeg: 9 } },
  });
  expect(await settings()).toEqual({ curlDeg: 9, give: 0.5 });
});

test('a job is done, measured, and its file is the character with the take', async () => {
  await startRun(database, queue, 'gullmouth', { takes: [take], characters: ['tallow', 'wick'] });
  const jobs = await newestRun(database, 'gullmouth');
  expect(jobs.map(({ state }) => state)).toEqual(['waiting', 'waiting']);
  expect(queued.slice(-2).sort()).toEqual(jobs.map(({ id }) => id).sort());
  for (const { id } of jobs) await runFit(database, id);
  for (const job of await newestRun(database, 'gullmouth')) {
    expect(job).toMatchObject({ state: 'done', hasFile: true });
    expect(job.report?.slideCm).toBeLessThan(0.2);
    const file = await fitFile(database, job.id);
    expect(readCharacter(new Uint8Array(file ?? []), 'back').statureM).toBeCloseTo(job.character === 'tallow' ? 1.5 : 1.78, 2);
  }
});

test('a job whose worker was killed is done by the next; one that kills every worker is given up', async () => {
  await startRun(database, queue, 'gullmouth', { takes: [take], characters: ['tallow'] });
  const [{ id }] = await newestRun(database, 'gullmouth');
  expect(await claim(database, id)).toMatchObject({ take });
  // While it is alive nobody else gets it.
  expect(await claim(database, id)).toBeNull();
  expect(await sweep(database, queue)).toBe(0);
  await die(id);
  const before = queued.length;
  expect(await sweep(database, queue)).toBe(1);
  expect(queued.slice(before)).toEqual([id]);
  await runFit(database, id);
  expect((await newestRun(database, 'gullmouth'))[0]).toMatchObject({ state: 'done', tries: 2 });

  await startRun(database, queue, 'gullmouth', { takes: [take], characters: ['tallow'] });
  const [poison] = await newestRun(database, 'gullmouth');
  for (let n = 0; n < MOST_TRIES; n++) {
    await claim(database, poison.id);
    await die(poison.id);
    await sweep(database, queue);
  }
  expect((await newestRun(database, 'gullmouth'))[0]).toMatchObject({ state: 'failed' });
});

test('what is stopped stays stopped, whatever its worker brings; what cannot be fitted says why', async () => {
  await startRun(database, queue, 'gullmouth', { takes: [take], characters: ['tallow', 'nobody'] });
  const [first, second] = await newestRun(database, 'gullmouth');
  const broken = first.character === 'nobody' ? first : second;
  const good = broken === first ? second : first;
  await runFit(database, broken.id);
  await claim(database, good.id);
  expect(await stopRun(database, good.run)).toBe(1);
  expect(await beat(database, good.id)).toBe(false);
  await finish(database, good.id, { state: 'failed', message: 'too late' });
  const states = await newestRun(database, 'gullmouth');
  expect(states.find(({ id }) => id === good.id)).toMatchObject({ state: 'stopped', message: '' });
  expect(states.find(({ id }) => id === broken.id)).toMatchObject({
    state: 'failed',
    message: expect.stringContaining('not in the project'),
  });
});

test('a row whose job was never put into the queue gets one, whatever cut the two apart; one that has a job gets no second', async () => {
  isCut = true;
  const warned = jest.spyOn(log, 'warn').mockImplementation(() => {});
  await startRun(database, queue, 'gullmouth', { takes: [take], characters: ['tallow'] });
  expect(warned).toHaveBeenCalledTimes(1);
  warned.mockRestore();
  isCut = false;
  const [{ id, state }] = await newestRun(database, 'gullmouth');
  expect(state).toBe('waiting');
  expect(queued).not.toContain(id);
  // At once it may still be between the two.
  expect(await sweep(database, queue)).toBe(0);
  await later(id);
  expect(await sweep(database, queue)).toBe(1);
  expect(queued.at(-1)).toBe(id);
  expect(await sweep(database, queue)).toBe(0);
});

test('a job that was fetched and never claimed is put into the queue again after a while', async () => {
  await startRun(database, queue, 'gullmouth', { takes: [take], characters: ['wick'] });
  const [{ id }] = await newestRun(database, 'gullmouth');
  await later(id);
  await database.execute(sql`update pgboss.job set state = 'active', started_on = now() where data->>'id' = ${id}`);
  expect(await sweep(database, queue)).toBe(0);
  await database.execute(sql`update pgboss.job set started_on = now() - interval '1 hour' where data->>'id' = ${id}`);
  expect(await sweep(database, queue)).toBe(1);
  await runFit(database, id);
  const [row] = await database.select({ state: fitJobs.state }).from(fitJobs).where(eq(fitJobs.id, id));
  expect(row.state).toBe('done');
});

test('a run of many thousand rows is written in parts', async () => {
  const characters = Array.from({ length: 50 }, (_, i) => `nobody-${i}`);
  const many = Array.from({ length: 300 }, () => randomUUID());
  const [row] = await database.select().from(takes).where(eq(takes.id, take));
  await database.insert(takes).values(many.map((id) => ({ ...row, id, hash: id })));
  const before = queued.length;
  const run = await startRun(database, queue, 'gullmouth', { takes: many, characters });
  expect(await newestRun(database, 'gullmouth')).toHaveLength(15_000);
  expect(queued.length - before).toBe(15_000);
  expect(await stopRun(database, run)).toBe(15_000);
});

test('the queue of a new database is opened by four at once, each time', async () => {
  for (let time = 0; time < 4; time++) {
    const fresh = await freshDatabase();
    const opened = await Promise.allSettled(Array.from({ length: 4 }, () => openBoss(fresh.url)));
    for (const one of opened) if (one.status === 'fulfilled') await one.value.stop({ graceful: false });
    await fresh.end();
    expect(opened.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'fulfilled', 'fulfilled']);
  }
});
