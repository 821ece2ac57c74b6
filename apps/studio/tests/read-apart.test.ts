import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { getPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { InputError, writeBvh } from '@lantern/motion';
import { sql } from 'drizzle-orm';
import { characterFile, type CharacterRow } from '@/server/characters';
import type { Database } from '@/server/database';
import { readWay, STREAMED_BYTES } from '@/server/long-takes';
import { readPieces, writePieces } from '@/server/pieces';
import { endReaders, readApart } from '@/server/read-apart';
import type { ReadTask } from '@/server/read-task';
import { takeChunks, takes } from '@/server/schema';
import { listTakes, type ImportResult, type TakeChanged } from '@/server/takes';
import { troubleOf } from '@/server/trouble';
import { oddGlb } from '../../../packages/motion/tests/odd-files';
import { freshDatabase } from './schema';

let database: Database;
let end: () => Promise<void>;
let folder = '';
const url = process.env.DATABASE_URL;
beforeAll(async () => {
  const fresh = await freshDatabase();
  ({ database, end } = fresh);
  process.env.DATABASE_URL = fresh.url;
  folder = mkdtempSync(join(tmpdir(), 'lantern-'));
});
afterAll(async () => {
  await endReaders();
  process.env.DATABASE_URL = url;
  rmSync(folder, { recursive: true });
  await end();
});

const put = (file: string, content: string | Uint8Array): ReadTask & { kind: 'take' } => {
  const path = join(folder, file);
  writeFileSync(path, content);
  return { kind: 'take', project: 'gullmouth', file, path, size: content.length };
};
const walk = (seed: number) => writeBvh(capture('walk', { seconds: 4, seed }).motion);
/** A BVH so large that it is read as it comes. */
function longBvh(seed: number): string {
  const text = walk(seed);
  const rowsAt = text.indexOf('\n', text.indexOf('Frame Time')) + 1;
  const rows = text.slice(rowsAt);
  const times = Math.ceil((1.1 * STREAMED_BYTES) / rows.length);
  return text.slice(0, rowsAt).replace(/Frames: (\d+)/, (_, n: string) => `Frames: ${Number(n) * times}`) + rows.repeat(times);
}
const counted = async () => {
  const { rows } = await database.execute<{ takes: string; chunks: string }>(
    sql`select (select count(*) from ${takes}) as takes, (select count(*) from ${takeChunks}) as chunks`,
  );
  return rows[0];
};
const refused = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof InputError ? { code: error.code, line: error.place.line } : error),
  );

test('a file is read beside the server and stored, and how far it is is told', async () => {
  const shares: number[] = [];
  const { takes: stored } = await readApart<ImportResult>(put('walk.bvh', walk(2)), { told: (share) => shares.push(share) });
  expect(stored).toMatchObject([{ name: 'walk', frames: 241, project: 'gullmouth' }]);
  expect((await listTakes(database, 'gullmouth')).map(({ id }) => id)).toEqual([stored[0].id]);
  expect(shares.length).toBeGreaterThan(0);
});

test('the thread that reads stands back for everybody else, who stand where they stood', async () => {
  const before = getPriority();
  await readApart<ImportResult>(put('behind.bvh', walk(10)));
  // The nineteenth figure of a thread's line is its priority; the second, in brackets, may have blanks in it.
  const priorities = readdirSync('/proc/self/task').map((thread) => {
    const line = readFileSync(`/proc/self/task/${thread}/stat`, 'utf8');
    return Number(line.slice(line.lastIndexOf(')') + 2).split(' ')[16]);
  });
  expect(priorities.filter((one) => one > before).length).toBeGreaterThan(0);
  expect(priorities.filter((one) => one === before).length).toBeGreaterThan(0);
  expect(getPriority()).toBe(before);
});

test('of a long file the share grows with what has been read', async () => {
  const shares: number[] = [];
  const { takes: stored } = await readApart<ImportResult>(put('long.bvh', longBvh(3)), { told: (share) => shares.push(share) });
  expect(stored[0].frames).toBeGreaterThan(10_000);
  expect(shares.length).toBeGreaterThan(5);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares.at(-1)).toBeCloseTo(1, 6);
});

test('what is wrong with a file comes with its code and its line, and nothing is stored', async () => {
  const before = await counted();
  expect(await refused(readApart(put('bad.bvh', walk(4).slice(0, 20_000))))).toEqual({ code: 'bvh-row', line: expect.any(Number) });
  expect(await refused(readApart(put('odd.bvh', 'HIERARCHY\nROOT Hips\n{\n  OFFSET 0 0\n')))).toMatchObject({ line: 4 });
  expect(await counted()).toEqual(before);
});

test('stopped in the middle, nothing is stored, and the next file comes in', async () => {
  const before = await counted();
  const stop = new AbortController();
  const told = (share: number) => share > 0.2 && stop.abort();
  expect(await refused(readApart(put('stopped.bvh', longBvh(5)), { signal: stop.signal, told }))).toEqual({ code: 'stopped' });
  expect(await counted()).toEqual(before);
  const { takes: stored } = await readApart<ImportResult>(put('next.bvh', walk(6)));
  expect(stored).toHaveLength(1);
});

test('what takes too long is given up, and nothing is stored', async () => {
  const before = await counted();
  expect(await refused(readApart(put('slow.bvh', longBvh(7)), { longest: 0.5 }))).toEqual({ code: 'slow' });
  expect(await counted()).toEqual(before);
});

test('the takes of one file come in all or not at all', async () => {
  const short = capture('walk', { seconds: 1, seed: 9 }).motion;
  const glb = await oddGlb(short, { animations: 3 });
  const { takes: stored } = await readApart<ImportResult>(put('gulls.glb', glb));
  expect(stored.map(({ name }) => name)).toEqual(['gulls way 1', 'gulls way 2', 'gulls way 3']);
  // The second time all three are known.
  const again = await readApart<ImportResult>(put('again.glb', glb));
  expect([again.takes, again.duplicates.length]).toEqual([[], 3]);
});

test('six copies that are sent at once come in once', async () => {
  const text = walk(11);
  const all = await Promise.all(['a', 'b', 'c', 'd', 'e', 'f'].map((name) => readApart<ImportResult>(put(`${name}.bvh`, text))));
  expect(all.flatMap((one) => one.takes)).toHaveLength(1);
  expect(all.flatMap((one) => one.duplicates)).toHaveLength(5);
});

test('a character is read there too; its file comes back to the bit', async () => {
  const glb = await castGlb('tallow');
  const { id } = await readApart<CharacterRow>({ ...put('Tallow.glb', glb), kind: 'character' });
  expect(id).toBe('tallow');
  const file = await characterFile(database, 'gullmouth', 'tallow');
  expect(Buffer.compare(Buffer.from(glb), file?.bytes ?? Buffer.alloc(0))).toBe(0);
});

test('a take that is read otherwise is measured there, and so is the way of a joint', async () => {
  const [take] = await listTakes(database, 'gullmouth');
  const metresPerUnit = take.passport.units.metresPerUnit / 2;
  const changed = await readApart<TakeChanged>({
    kind: 'change',
    take: take.id,
    patch: { overrides: { metresPerUnit } },
    before: { overrides: take.overrides },
  });
  expect(changed).toMatchObject({ outcome: 'changed', take: { overrides: { metresPerUnit } } });
  const way = await readApart<Float32Array | null>({ kind: 'way', take: take.id, joint: 'LeftFoot' });
  expect(way).toEqual(await readWay(database, take.id, 'LeftFoot'));
  expect(await readApart({ kind: 'way', take: take.id, joint: 'Nobody' })).toBeNull();
});

test('a file larger than a piece comes back whole, and another in its place leaves nothing of it', async () => {
  const large = Buffer.alloc(9_000_001, 'gulls over the quay ');
  await writePieces(database, 'a file', large);
  expect(Buffer.compare((await readPieces(database, 'a file')) ?? Buffer.alloc(0), large)).toBe(0);
  await writePieces(database, 'a file', Buffer.from('small'));
  expect(String(await readPieces(database, 'a file'))).toBe('small');
  expect(await readPieces(database, 'none')).toBeNull();
});

test('a database that is away is told as such, and the threads are good again when it is back', async () => {
  await endReaders();
  const here = process.env.DATABASE_URL;
  process.env.DATABASE_URL = 'postgres://lantern:x@127.0.0.1:9/none';
  const error = await readApart(put('away.bvh', walk(12))).catch((thrown: unknown) => thrown);
  expect(troubleOf(error).status).toBe(503);
  await endReaders();
  process.env.DATABASE_URL = here;
  expect((await readApart<ImportResult>(put('back.bvh', walk(13)))).takes).toHaveLength(1);
});
