import { randomUUID } from 'node:crypto';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  fieldSchema,
  findLoops,
  groundwork,
  joinSchema,
  make,
  parseProject,
  recipeSchema,
  setSchema,
  shipSchema,
  writeBvh,
  type Motion,
  type Report,
} from '@lantern/motion';
import { validateGlb } from '@lantern/unpack';
import { eq, like } from 'drizzle-orm';
import { strFromU8, unzipSync } from 'fflate';
import { importCharacter, saveFit } from '@/server/characters';
import { saveClip } from '@/server/clips';
import type { Database } from '@/server/database';
import { saveJoin } from '@/server/joins';
import { readPieces } from '@/server/pieces';
import { filePieces } from '@/server/schema';
import { madeClips, shipments } from '@/server/ship/tables';
import { saveSet } from '@/server/sets';
import { drain } from '@/server/ship/drain';
import { openDocument, projectDocument } from '@/server/ship/document';
import { claimClip, DEAD_AFTER, MOST_TRIES, pruneShipping, sweepShipping } from '@/server/ship/made-clips';
import { claimShipment, madePieces } from '@/server/ship/pack-shipment';
import { readiness } from '@/server/ship/readiness';
import { bringBack, listShipments, shipmentReport, startShipment, stopOrTakeBack } from '@/server/ship/shipments';
import { shippedEntries, zipStream } from '@/server/ship/zip-stream';
import { changeTake, importTake } from '@/server/takes';
import { freshDatabase } from './schema';

const P = 'gullmouth';
let database: Database;
let end: () => Promise<void>;
const queue = { insert: async () => {} };
const files = new Map<string, Uint8Array>();
const clips = new Map<string, { id: string; take: string; from: number; to: number }>();
let walk: string;

const loopIn = (motion: Motion) => {
  const ground = groundwork(motion);
  const found = ground && findLoops(ground).candidates.find(({ strides }) => strides === 1);
  if (!found) throw new Error('nobody walks');
  return found;
};
const steps = (...more: object[]) =>
  recipeSchema.parse([
    { kind: 'fit', character: 'tallow' },
    { kind: 'loop' },
    { kind: 'foot-lock' },
    { kind: 'travel', start: 'origin' },
    ...more,
  ]);

async function saved(name: string, take: string, from: number, to: number, own = steps(), revision = 0): Promise<string> {
  const id = clips.get(name)?.id ?? randomUUID();
  const result = await saveClip(database, P, id, { name, source: { take, from, to }, steps: own, gait: 'walk', direction: '', revision });
  if (result.outcome !== 'saved') throw new Error(`${name} was not saved`);
  clips.set(name, { id, take, from, to });
  return id;
}

beforeAll(async () => {
  ({ database, end } = await freshDatabase());
  for (const [name, script] of [
    ['walk', 'walk'],
    ['wait', 'idle'],
  ] as const) {
    const { motion } = capture(script, { seconds: 6, seed: 3 });
    const bytes = new TextEncoder().encode(writeBvh(motion));
    files.set(`takes/${name}.bvh`, bytes);
    const take = await importTake(database, P, `${name}.bvh`, bytes);
    if (script === 'walk') {
      walk = take.id;
      const { from, to } = loopIn(motion);
      await changeTake(database, take.id, { overrides: { floorToZero: true }, markers: [{ frame: from + 12, name: 'lamp' }] });
      await saved('stroll', take.id, from, to);
      await saveFit(database, P, { source: take.signature, character: 'tallow', settings: { soleCm: 0.5 } }).catch(() => {});
    } else await saved('wait', take.id, 30, 200);
  }
  const tallow = await castGlb('tallow');
  files.set('characters/tallow.glb', tallow);
  await importCharacter(database, P, 'Tallow.glb', tallow);
  const stroll = clips.get('stroll');
  const wait = clips.get('wait');
  if (!stroll || !wait) throw new Error('no clips');
  const { name, pieces, start } = joinSchema.parse({ name: 'round', pieces: [{ clip: stroll.id, times: 2 }, { clip: wait.id }] });
  await saveJoin(database, P, randomUUID(), { name, pieces, start, revision: 0 });
  const set = setSchema.parse({ name: 'ferry', character: 'tallow', home: { clip: wait.id, frame: 4 }, pins: {} });
  await saveSet(database, P, randomUUID(), {
    ...set,
    fields: [{ id: 'f', ...fieldSchema.parse({ name: 'strolls', inputs: ['speed'], clips: [stroll.id] }) }],
    revision: 0,
  });
});
afterAll(() => end());

const ship = shipSchema.parse({ fps: 30, thin: {}, bvh: true, csv: true });
const shipIt = async (own = ship): Promise<string> => {
  const id = await startShipment(database, queue, P, own);
  if (!id) throw new Error('no project');
  await drain(database);
  return id;
};
const bytesOf = async (hash: string): Promise<Uint8Array> => (await readPieces(database, madePieces(hash))) ?? new Uint8Array(0);
const listed = async (id: string) => {
  const found = (await listShipments(database, P)).find((own) => own.id === id);
  if (!found) throw new Error('not in the list');
  return found;
};

test('the application and the command line write the same bytes, for the whole set', async () => {
  const id = await shipIt();
  const { state, files: written, of, done, failed } = await listed(id);
  expect({ state, of, done, failed }).toEqual({ state: 'done', of: 3, done: 3, failed: 0 });
  // The project as a file, with the very files that came in: what `make` makes of it.
  const document = await projectDocument(database, P, ship);
  if (!document) throw new Error('no project');
  const { parsed, takes, characters } = openDocument(document);
  const made = await make(
    parsed,
    async (file) => {
      const bytes = files.get(file);
      if (!bytes) throw new Error(`${file} is asked for`);
      return bytes;
    },
    { validate: validateGlb, contentOf: { take: (own) => takes[own].content, character: (own) => characters[own] } },
  );
  expect(made.report.failed).toEqual([]);
  expect(written.map(({ path }) => path)).toEqual([...made.files.map(({ path }) => path), 'report.json']);
  for (const { path, bytes } of made.files) {
    const own = written.find((each) => each.path === path);
    expect(Buffer.compare(await bytesOf(own?.hash ?? ''), bytes)).toBe(0);
  }
  const report = JSON.parse(Buffer.from(await bytesOf(written.at(-1)?.hash ?? '')).toString()) as Report;
  expect(JSON.stringify(report.clips)).toBe(JSON.stringify(made.report.clips));
  expect(report.guarantees?.filter(({ ok }) => !ok)).toEqual([]);
  expect(report.clips.find(({ name }) => name === 'stroll')?.marks).toMatchObject([{ name: 'lamp' }]);
});

test('what did not change is not written again, and what did is said with why', async () => {
  const first = await shipIt();
  expect((await listed(first)).written.every(({ state }) => state === 'same')).toBe(true);
  const known = clips.get('stroll');
  if (!known) throw new Error('no stroll');
  await saved('stroll', known.take, known.from, known.to, steps(), 1);
  const held = await database.$count(filePieces);
  expect((await listed(await shipIt())).written.every(({ state }) => state === 'same')).toBe(true);
  // Only the report of each shipment is new.
  expect((await database.$count(filePieces)) - held).toBeLessThanOrEqual(1);
  await saved(
    'stroll',
    known.take,
    known.from,
    known.to,
    steps().filter(({ kind }) => kind !== 'foot-lock'),
    2,
  );
  const written = new Map((await listed(await shipIt())).written.map((own) => [own.path, own]));
  expect(written.get('set.glb')).toMatchObject({ state: 'changed', why: expect.arrayContaining(['stroll: the step “foot-lock” is gone']) });
  expect(written.get('clips/stroll.bvh')?.state).toBe('changed');
  expect(written.get('clips/wait.bvh')).toMatchObject({ state: 'same', why: [] });
  await saved('stroll', known.take, known.from, known.to, steps(), 3);
});

test('figures that are known are there at once; only a clip that was changed is made again', async () => {
  const states = async (own = ship) =>
    Object.fromEntries(((await readiness(database, queue, P, own)) ?? []).map((row) => [row.name, row.state]));
  await states();
  await drain(database);
  const rows = (await readiness(database, queue, P, ship)) ?? [];
  expect(rows.map(({ name, kind, state, character }) => [name, kind, state, character])).toEqual([
    ['stroll', 'clip', 'done', 'tallow'],
    ['wait', 'clip', 'done', 'tallow'],
    ['round', 'join', 'done', 'tallow'],
  ]);
  const [stroll, wait, round] = rows;
  expect(stroll.about?.figures.speedMps).toBeGreaterThan(0.8);
  expect(stroll.about?.strip?.left.length).toBeGreaterThan(10);
  expect(stroll.about?.keys.bytes).toBeLessThan(stroll.about?.keys.denseBytes ?? 0);
  expect(wait.about?.homeCm).toBeLessThan(3);
  expect(round.about?.meets).toHaveLength(1);
  const known = clips.get('wait');
  if (!known) throw new Error('no wait');
  await saved('wait', known.take, 31, 200, steps(), 1);
  // The join has a piece of it, and all are measured against its pose, which is home.
  expect(await states()).toEqual({ stroll: 'waiting', wait: 'waiting', round: 'waiting' });
  await saved('wait', known.take, known.from, known.to, steps(), 2);
  expect(await states()).toEqual({ stroll: 'done', wait: 'done', round: 'done' });
  expect(await states({ ...ship, fps: 60 })).toEqual({ stroll: 'waiting', wait: 'waiting', round: 'waiting' });
  // What only concerns files changes nothing of how clips are made.
  expect(await states({ ...ship, bvh: false, prefix: 'T_', targets: true })).toEqual({ stroll: 'done', wait: 'done', round: 'done' });
  await drain(database);
});

test('a worker that dies leaves nothing undone: its clip is made by another, its shipment packed to the same bytes', async () => {
  const before = await listed(await shipIt());
  await database.delete(madeClips);
  const id = await startShipment(database, queue, P, ship);
  if (!id) throw new Error('no project');
  const long = new Date(Date.now() - (DEAD_AFTER + 1) * 1000);
  // Killed while it makes a clip.
  const claimed = await claimClip(database);
  expect(claimed).not.toBeNull();
  expect((await listed(id)).state).toBe('making');
  await database
    .update(madeClips)
    .set({ beat: long })
    .where(eq(madeClips.key, claimed?.key ?? ''));
  expect(await sweepShipping(database)).toBe(true);
  for (let clip = await claimClip(database); clip; clip = await claimClip(database)) {
    const { makeClaimed } = await import('@/server/ship/make-clip');
    await makeClaimed(database, clip);
  }
  // Killed while it packs.
  expect(await claimShipment(database)).toMatchObject({ id });
  expect(await claimShipment(database)).toBeNull();
  await database.update(shipments).set({ beat: long }).where(eq(shipments.id, id));
  expect(await sweepShipping(database)).toBe(true);
  await drain(database);
  const after = await listed(id);
  expect(after.state).toBe('done');
  const sums = (own: typeof after) => own.files.filter(({ path }) => path !== 'report.json').map(({ path, hash }) => [path, hash]);
  expect(sums(after)).toEqual(sums(before));
});

test('what nobody has asked for in a long while is let go, and made again when somebody does; what shipped stays', async () => {
  const id = await shipIt();
  const old = new Date(Date.now() - 20 * 86_400_000);
  await database.update(madeClips).set({ asked: old });
  // Asked for now: it stays, with its bytes.
  await readiness(database, queue, P, ship);
  await pruneShipping(database);
  expect(await database.$count(madeClips, eq(madeClips.state, 'done'))).toBeGreaterThanOrEqual(3);
  await database.update(madeClips).set({ asked: old });
  await pruneShipping(database);
  expect(await database.$count(madeClips)).toBe(0);
  expect(await database.$count(filePieces, like(filePieces.file, 'clip %'))).toBe(0);
  for (const { hash } of (await listed(id)).files) expect((await bytesOf(hash)).length).toBeGreaterThan(0);
  expect((await listed(await shipIt())).written.every(({ state }) => state === 'same')).toBe(true);
});

test('what kills its workers again and again is given up, and said', async () => {
  await database.delete(madeClips);
  const id = await startShipment(database, queue, P, ship);
  const key = (await claimClip(database))?.key ?? '';
  await database
    .update(madeClips)
    .set({ beat: new Date(0), tries: MOST_TRIES })
    .where(eq(madeClips.key, key));
  await sweepShipping(database);
  await drain(database);
  const { state, failed } = await listed(id ?? '');
  expect({ state, failed }).toEqual({ state: 'done', failed: 1 });
  const report = await shipmentReport(database, id ?? '');
  expect(report?.failed[0].message).toMatch(/begun several times/);
  // Asked for once more it is tried once more.
  expect((await listed(await shipIt())).failed).toBe(0);
});

test('a shipment is stopped, and what nobody else wants is not made', async () => {
  await database.delete(madeClips);
  const id = (await startShipment(database, queue, P, ship)) ?? '';
  expect(await stopOrTakeBack(database, id)).toBe('stopped');
  expect(await claimClip(database)).toBeNull();
  expect((await listed(id)).state).toBe('stopped');
  await drain(database);
  expect((await listed(id)).state).toBe('stopped');
});

test('a shipment that arrived is taken back and brought back; the next is then held against the one before it', async () => {
  const id = await shipIt();
  expect(await stopOrTakeBack(database, id)).toBe('removed');
  expect((await listShipments(database, P)).some((own) => own.id === id)).toBe(false);
  expect(await bringBack(database, id)).toBe(true);
  expect((await listed(id)).state).toBe('done');
  expect(await stopOrTakeBack(database, randomUUID())).toBeNull();
});

test('the archive has every file once, may be asked for before the shipment has arrived, and ends with an error when it does not arrive', async () => {
  const collect = async (stream: ReadableStream<Uint8Array>) => {
    const parts: Uint8Array[] = [];
    for (const reader = stream.getReader(); ;) {
      const { done, value } = await reader.read();
      if (done) return unzipSync(Buffer.concat(parts));
      parts.push(value);
    }
  };
  const id = (await startShipment(database, queue, P, ship)) ?? '';
  const asked = collect(zipStream(shippedEntries(database, id, 20)));
  await drain(database);
  const archive = await asked;
  const { files: written } = await listed(id);
  expect(Object.keys(archive)).toEqual(written.map(({ path }) => path));
  for (const { path, hash, bytes } of written) {
    expect(archive[path].length).toBe(bytes);
    expect(Buffer.compare(archive[path], await bytesOf(hash))).toBe(0);
  }
  expect(strFromU8(archive['clips/stroll.travel.csv'])).toMatch(/^time_s,/);
  await database.delete(madeClips);
  const never = (await startShipment(database, queue, P, ship)) ?? '';
  const cut = expect(collect(zipStream(shippedEntries(database, never, 20)))).rejects.toThrow(/stopped/);
  await stopOrTakeBack(database, never);
  await cut;
});

test('clips that stay behind are not in it, and are not in the way', async () => {
  const id = await shipIt(shipSchema.parse({ ...ship, without: [clips.get('wait')?.id] }));
  const report = await shipmentReport(database, id);
  expect(report?.clips.map(({ name }) => name)).toEqual(['stroll']);
  expect((await listed(id)).written.filter(({ state }) => state === 'gone').map(({ path }) => path)).toContain('clips/wait.bvh');
  await expect(
    startShipment(database, queue, P, shipSchema.parse({ without: [...clips.values()].map((own) => own.id) })),
  ).resolves.not.toBeNull();
  await drain(database);
});

test('a project as a file is read as it was written', async () => {
  const document = await projectDocument(database, P, ship);
  if (!document) throw new Error('no project');
  const text = JSON.stringify(document.project);
  expect(JSON.stringify(parseProject(text))).toBe(JSON.stringify(openDocument(document).parsed));
  expect(openDocument(document).hash).toBe(openDocument(JSON.parse(JSON.stringify(document)) as typeof document).hash);
});

test('a clip that cannot be made is left out and named; the others go', async () => {
  const known = clips.get('stroll');
  if (!known) throw new Error('no stroll');
  const other = await saved('far', walk, 10, 60, recipeSchema.parse([{ kind: 'fit', character: 'nobody' }]));
  const id = await shipIt();
  const report = await shipmentReport(database, id);
  expect(report?.clips.map(({ name }) => name)).toEqual(['stroll', 'wait']);
  expect(report?.failed).toMatchObject([{ name: 'far', message: expect.stringMatching(/nobody/) }]);
  expect(((await readiness(database, queue, P, ship)) ?? []).find((row) => row.id === other)).toMatchObject({
    state: 'failed',
    message: expect.stringMatching(/nobody/),
  });
});
