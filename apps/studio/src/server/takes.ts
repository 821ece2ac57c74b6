import { randomUUID } from 'node:crypto';
import { describeTake, readTake, type Motion, type Take } from '@lantern/motion';
import { and, asc, count, eq, isNull } from 'drizzle-orm';
import type { Database } from './database';
import { clips, takeChunks, takes } from './schema';

const CHUNK_FRAMES = 400;
const PATH_POINTS = 120;

/** What the table and the passport show of a take; the motion comes separately. */
export type TakeRow = Omit<typeof takes.$inferSelect, 'removed'>;

/**
 * Reads a file and stores it.
 *
 * @throws InputError that says what is wrong with the file, and nothing is stored
 */
export async function importTake(database: Database, project: string, file: string, bytes: Uint8Array): Promise<TakeRow> {
  const take = readTake(bytes, file);
  const { passport, motion } = describeTake(take);
  const row = {
    id: randomUUID(),
    project,
    name: take.name,
    file,
    frames: take.motion.frames,
    fps: take.motion.fps,
    skeleton: take.motion.skeleton,
    moving: [...(take.motion.translations?.keys() ?? [])],
    passport,
    path: pathOf(motion),
  };
  return database.transaction(async (transaction) => {
    const [stored] = await transaction.insert(takes).values(row).returning();
    const chunks = chunksOf(take).map((chunk, index) => ({ take: row.id, index, bytes: chunk }));
    // A few at a time: a take of half an hour has more bytes than one statement should.
    for (let i = 0; i < chunks.length; i += 8) await transaction.insert(takeChunks).values(chunks.slice(i, i + 8));
    return stored;
  });
}

export async function listTakes(database: Database, project: string): Promise<TakeRow[]> {
  return database
    .select()
    .from(takes)
    .where(and(eq(takes.project, project), isNull(takes.removed)))
    .orderBy(asc(takes.created), asc(takes.name));
}

/** Every row of a take's motion, or null when there is no such take. */
export async function readMotionBytes(database: Database, id: string): Promise<Buffer | null> {
  const chunks = await database
    .select({ bytes: takeChunks.bytes })
    .from(takeChunks)
    .where(eq(takeChunks.take, id))
    .orderBy(asc(takeChunks.index));
  return chunks.length > 0 ? Buffer.concat(chunks.map((chunk) => chunk.bytes)) : null;
}

/** Takes a take out of the list; its clips' cuts would hang in the air, so it must have none. */
export async function removeTake(database: Database, id: string): Promise<'removed' | 'has-clips' | 'missing'> {
  const [{ held }] = await database
    .select({ held: count() })
    .from(clips)
    .where(and(eq(clips.take, id), isNull(clips.removed)));
  if (held > 0) return 'has-clips';
  const done = await database.update(takes).set({ removed: new Date() }).where(eq(takes.id, id)).returning({ id: takes.id });
  return done.length > 0 ? 'removed' : 'missing';
}

export async function restoreTake(database: Database, id: string): Promise<boolean> {
  const done = await database.update(takes).set({ removed: null }).where(eq(takes.id, id)).returning({ id: takes.id });
  return done.length > 0;
}

function chunksOf(take: Take): Buffer[] {
  const { motion } = take;
  const joints = motion.skeleton.joints.length;
  const moving = [...(motion.translations?.values() ?? [])];
  const width = 3 + joints * 4 + moving.length * 3;
  const out: Buffer[] = [];
  for (let first = 0; first < motion.frames; first += CHUNK_FRAMES) {
    const frames = Math.min(CHUNK_FRAMES, motion.frames - first);
    const rows = new Float32Array(frames * width);
    for (let f = 0; f < frames; f++) {
      const source = first + f;
      rows.set(motion.rootPositions.subarray(source * 3, source * 3 + 3), f * width);
      rows.set(motion.rotations.subarray(source * joints * 4, (source + 1) * joints * 4), f * width + 3);
      moving.forEach((t, k) => rows.set(t.subarray(source * 3, source * 3 + 3), f * width + 3 + joints * 4 + k * 3));
    }
    out.push(Buffer.from(rows.buffer));
  }
  return out;
}

function pathOf(motion: Motion): number[] {
  const step = Math.max(1, (motion.frames - 1) / (PATH_POINTS - 1));
  const out: number[] = [];
  for (let f = 0; f < motion.frames; f += step) {
    const at = Math.round(f) * 3;
    out.push(Math.round(motion.rootPositions[at] * 1000) / 1000, Math.round(motion.rootPositions[at + 2] * 1000) / 1000);
  }
  return out;
}
