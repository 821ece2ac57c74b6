import { randomUUID } from 'node:crypto';
import { capture } from '@lantern/capture';
import { forwardKinematics, readBvh, stepSchema, writeBvh } from '@lantern/motion';
import { listClips, removeClip, saveClip, type ClipInput } from '@/server/clips';
import type { Database } from '@/server/database';
import { loadDemo } from '@/server/demo';
import { importTake, listTakes, readMotionBytes, removeTake, restoreTake } from '@/server/takes';
import { motionFromRows } from '@lantern/motion';
import { freshDatabase } from './schema';

let database: Database;
let end: () => Promise<void>;
beforeAll(async () => {
  ({ database, end } = await freshDatabase());
});
afterAll(() => end());

const bytes = new TextEncoder().encode(writeBvh(capture('walk', { seconds: 15, seed: 2 }).motion));
const clip = (take: string, change: Partial<ClipInput> = {}): ClipInput => ({
  take,
  name: 'stroll',
  from: 100,
  to: 165,
  steps: [stepSchema.parse({ kind: 'loop' })],
  revision: 0,
  ...change,
});

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

test('a file that cannot be read leaves nothing behind', async () => {
  const before = (await listTakes(database, 'gullmouth')).length;
  await expect(importTake(database, 'gullmouth', 'bad.bvh', bytes.subarray(0, 50_000))).rejects.toMatchObject({ code: 'bvh-row' });
  expect(await listTakes(database, 'gullmouth')).toHaveLength(before);
});

test('the later of two saves from the same revision is told, and nothing is overwritten', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', bytes);
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
  const take = await importTake(database, 'gullmouth', 'walk.bvh', bytes);
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  const results = await Promise.all(
    ['a', 'b', 'c', 'd'].map((name) => saveClip(database, 'gullmouth', id, clip(take.id, { revision: 1, name }))),
  );
  expect(results.map((r) => r.outcome).sort()).toEqual(['conflict', 'conflict', 'conflict', 'saved']);
});

test('a removed clip comes back when its removal is undone; a cut outside its take is refused', async () => {
  const take = await importTake(database, 'gullmouth', 'walk.bvh', bytes);
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
  const take = await importTake(database, 'gullmouth', 'walk.bvh', bytes);
  const id = randomUUID();
  await saveClip(database, 'gullmouth', id, clip(take.id));
  expect(await removeTake(database, take.id)).toBe('has-clips');
  await removeClip(database, 'gullmouth', id, 1);
  expect(await removeTake(database, take.id)).toBe('removed');
  expect((await listTakes(database, 'gullmouth')).some((t) => t.id === take.id)).toBe(false);
  expect(await restoreTake(database, take.id)).toBe(true);
  expect(await removeTake(database, randomUUID())).toBe('missing');
});

test('the demo data is Wick’s takes and two loops that are whole strides', async () => {
  const own = await freshDatabase();
  try {
    await loadDemo(own.database);
    expect((await listTakes(own.database, 'gullmouth')).map((take) => take.name)).toEqual([
      'wick-rounds',
      'wick-stroll',
      'wick-jog',
      'wick-waiting',
    ]);
    const clips = await listClips(own.database, 'gullmouth');
    expect(clips.map((c) => c.name)).toEqual(['stroll-forward', 'jog-forward']);
  } finally {
    await own.end();
  }
});
