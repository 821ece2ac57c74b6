import { unpackGlb } from '@lantern/unpack';
import { createHash, randomUUID } from 'node:crypto';
import {
  applyOverrides,
  bareName,
  CHUNK_FRAMES,
  describeTake,
  takeDescriber,
  fileKind,
  InputError,
  type Motion,
  type Passport,
  motionFromRows,
  motionToRows,
  readAsf,
  readTakes,
  type Take,
  type TakeOverrides,
  type TakePatch,
} from '@lantern/motion';
import { and, asc, desc, eq, gte, isNull, lt, sql } from 'drizzle-orm';
import type { MadeFrom } from '@/http/made-from';
import { moveCuts, stepOf } from './cuts';
import type { Database } from './database';
import { merged } from './merge';
import { pathOf } from './path-of';
import { hasPieces, takePieces, writePieces } from './pieces';
import { projects, repairs, skeletonFiles, takeChunks, takes } from './schema';

/** Reading a file is about this share of bringing it in; the rest is measuring and storing its takes. */
const READ_SHARE = 0.5;
/** A skeleton file has some hundred lines, bytes. */
const MOST_SKELETON = 4_000_000;

/** A connection, or a transaction of one, that reads. */
export type Reading = Pick<Database, 'select'>;

/** What the table and the passport show of a take; the motion comes separately. */
export type TakeRow = Omit<typeof takes.$inferSelect, 'removed'>;

/** What became of a file: its takes, those that were here already, or a skeleton kept for the motions that fit it. */
export interface ImportResult {
  readonly takes: TakeRow[];
  /** Names of takes with the same content that are in the project already. */
  readonly duplicates: string[];
  readonly skeleton: string | null;
}

/**
 * Reads a file and stores what it holds. What was overruled for other takes of the same suit holds for these too.
 *
 * @param told hears how much of it is done, 0 to 1
 * @throws InputError that says what is wrong with the file, and nothing is stored
 */
export async function importFile(
  database: Database,
  project: string,
  file: string,
  bytes: Uint8Array,
  told: (share: number) => void = () => {},
): Promise<ImportResult> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  const kind = fileKind(bytes, file);
  if (kind === 'asf') {
    if (bytes.length > MOST_SKELETON) throw new InputError('too-large', `A skeleton of ${Math.round(bytes.length / 1e6)} MB is none.`);
    readAsf(bytes, bareName(file));
    await database
      .insert(skeletonFiles)
      .values({ project, hash, file, bytes: Buffer.from(bytes) })
      .onConflictDoNothing();
    return { takes: [], duplicates: [], skeleton: bareName(file) };
  }
  const skeletons = kind === 'amc' ? await skeletonsOf(database, project, file) : [];
  const result: { takes: TakeRow[]; duplicates: string[]; skeleton: null } = { takes: [], duplicates: [], skeleton: null };
  const read = readTakes(await unpackGlb(bytes), file, { skeletons });
  for (const [i, take] of read.entries()) {
    told(READ_SHARE + ((1 - READ_SHARE) * i) / read.length);
    const own = take.part === undefined ? hash : `${hash} ${take.part}`;
    const stored = await storeTake(database, project, file, own, take);
    if (typeof stored === 'string') result.duplicates.push(stored);
    else result.takes.push(stored);
  }
  // The file itself is kept, so that a project can leave with its takes as they came.
  if (result.takes.length > 0 && !(await hasPieces(database, takePieces(hash)))) await writePieces(database, takePieces(hash), bytes);
  return result;
}

/**
 * The name of the take with the same content, if the project has one. Until the transaction ends, others that bring in the same
 * content wait here: two copies sent at the same moment would otherwise both find nothing.
 */
export async function heldTake(
  transaction: Pick<Database, 'select' | 'execute'>,
  project: string,
  hash: string,
): Promise<string | undefined> {
  await transaction.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${project} ${hash}`}, 0))`);
  const [held] = await transaction
    .select({ name: takes.name })
    .from(takes)
    .where(and(eq(takes.project, project), eq(takes.hash, hash), isNull(takes.removed)));
  return held?.name;
}

/** The single take of a file that has one. @throws InputError as `importFile` does */
export async function importTake(database: Database, project: string, file: string, bytes: Uint8Array): Promise<TakeRow> {
  const { takes: stored } = await importFile(database, project, file, bytes);
  if (stored.length === 0) throw new InputError('duplicate', 'The take is here already.');
  return stored[0];
}

async function skeletonsOf(database: Database, project: string, file: string) {
  const kept = await database.select().from(skeletonFiles).where(eq(skeletonFiles.project, project)).orderBy(desc(skeletonFiles.created));
  // The one named like the motion first: "34.asf" and "34_01.amc".
  const stem = bareName(file).toLowerCase();
  const isNamed = (name: string) => stem.startsWith(bareName(name).toLowerCase());
  return [...kept].sort((a, b) => Number(isNamed(b.file)) - Number(isNamed(a.file))).map((row) => readAsf(row.bytes, bareName(row.file)));
}

/** What a take that comes in begins with: what was overruled for its suit before, else what the project does with every take. */
export async function firstOverrides(
  database: Pick<Database, 'select'>,
  project: string,
  { signature, warnings }: Pick<Passport, 'signature' | 'warnings'>,
): Promise<TakeOverrides> {
  const [known] = await database
    .select({ overrides: repairs.overrides })
    .from(repairs)
    .where(and(eq(repairs.project, project), eq(repairs.signature, signature)));
  if (known) return known.overrides;
  const [about] = await database.select({ settlesFloor: projects.settlesFloor }).from(projects).where(eq(projects.id, project));
  return about?.settlesFloor && warnings.some(({ code }) => code === 'floor') ? { floorToZero: true } : {};
}

/** Stores a take, or gives the name of the one that holds the same already. */
async function storeTake(database: Database, project: string, file: string, hash: string, take: Take): Promise<TakeRow | string> {
  const describe = takeDescriber(take);
  const plain = describe({});
  const overrides = await firstOverrides(database, project, plain.passport);
  const { passport, motion } = describe(overrides);
  const row = {
    id: randomUUID(),
    project,
    name: take.name,
    file,
    hash,
    signature: passport.signature,
    frames: take.motion.frames,
    fps: take.motion.fps,
    skeleton: take.motion.skeleton,
    moving: [...(take.motion.translations?.keys() ?? [])],
    passport,
    overrides,
    path: pathOf(motion),
  };
  return database.transaction(async (transaction) => {
    const held = await heldTake(transaction, project, hash);
    if (held !== undefined) return held;
    const [stored] = await transaction.insert(takes).values(row).returning();
    for (let index = 0; index * CHUNK_FRAMES < take.motion.frames; index++) {
      const first = index * CHUNK_FRAMES;
      const rows = motionToRows(take.motion, first, Math.min(CHUNK_FRAMES, take.motion.frames - first));
      await transaction.insert(takeChunks).values({ take: row.id, index, bytes: Buffer.from(rows.buffer) });
    }
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

/** Takes with more frames times joints than this are long: they are read, stored and shown in parts. */
export const LONG_SAMPLES = 2_000_000;
/** Frames from the start of a long take on which its passport is made. */
export const MEASURED_FRAMES = 20_000;

/** The rows of a take's motion, all or some chunks of them, or null when there is no such take. */
export async function readMotionBytes(database: Reading, id: string, most = Infinity, from = 0): Promise<Buffer | null> {
  const chunks = await database
    .select({ bytes: takeChunks.bytes })
    .from(takeChunks)
    .where(and(eq(takeChunks.take, id), gte(takeChunks.index, from), Number.isFinite(most) ? lt(takeChunks.index, from + most) : undefined))
    .orderBy(asc(takeChunks.index));
  return chunks.length > 0 ? Buffer.concat(chunks.map((chunk) => chunk.bytes)) : null;
}

/** One chunk of a take's rows, or null when there is none. */
export async function readChunk(database: Database, id: string, index: number): Promise<Buffer | null> {
  const [chunk] = await database
    .select({ bytes: takeChunks.bytes })
    .from(takeChunks)
    .where(and(eq(takeChunks.take, id), eq(takeChunks.index, index)));
  return chunk?.bytes ?? null;
}

/** The take as it came in, read back from its chunks. */
export async function readStored(database: Reading, row: TakeRow, chunks = Infinity): Promise<Take> {
  const bytes = await readMotionBytes(database, row.id, chunks);
  if (!bytes) throw new InputError('missing', 'The take has no motion.');
  const rows = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  const motion: Motion = motionFromRows(rows, row.skeleton, row.fps, row.moving);
  const found = new Set(['units', 'up-axis', 'no-legs', 'floor', 'one-frame', 'free-fall-rate', 'free-fall-scale']);
  // The reader's own warnings stay; what was worked out is worked out again.
  const warnings = row.passport.warnings.filter(({ code }) => !found.has(code));
  return { name: row.name, format: row.passport.format, part: row.passport.part, motion, warnings };
}

/** A take's motion as everything downstream sees it. @throws InputError `missing` when it is not there */
export async function openMotion(database: Database, id: string): Promise<{ motion: Motion; signature: string; name: string }> {
  const [row] = await database.select().from(takes).where(eq(takes.id, id));
  if (!row) throw new InputError('missing', 'The take is not in the project any more.');
  const { motion } = await readStored(database, row);
  return { motion: applyOverrides(motion, row.passport.reading, row.overrides), signature: row.signature, name: row.name };
}

/** The passport of a long take from its first frames, with the length of all of it. */
async function describeLong(database: Reading, row: TakeRow, overrides: TakeOverrides) {
  const { passport, motion } = describeTake(await readStored(database, row, Math.ceil(MEASURED_FRAMES / CHUNK_FRAMES)), overrides);
  return { motion, passport: ofWholeLength(passport, row.frames, stepOf(row, overrides)) };
}

/** A passport made on the first frames of a longer take. @param frames of the file, at its own rate */
export function ofWholeLength(passport: Passport, frames: number, step: number): Passport {
  const whole = Math.floor((frames - 1) / step + 1e-6) + 1;
  const clock = (count: number) =>
    `${Math.floor(count / passport.fps / 60)}:${String(Math.round((count / passport.fps) % 60)).padStart(2, '0')}`;
  return {
    ...passport,
    frames: whole,
    seconds: whole / passport.fps,
    warnings: [
      ...passport.warnings.filter(({ code }) => code !== 'measured-part' && code !== 'one-frame'),
      {
        code: 'measured-part',
        message: `The take is long: its passport is made on the first ${clock(passport.frames)} of ${clock(whole)} minutes.`,
      },
    ],
  };
}

export type TakeChanged =
  | { readonly outcome: 'changed'; readonly take: TakeRow }
  /** Somebody else changed the same meanwhile; `take` is what stands. */
  | { readonly outcome: 'conflict'; readonly fields: readonly string[]; readonly take: TakeRow }
  | { readonly outcome: 'missing' };

/** Writes down what a take was baked from; what stands there is never changed. */
export async function noteMade(database: Database, id: string, made: MadeFrom): Promise<void> {
  await database
    .update(takes)
    .set({ made })
    .where(and(eq(takes.id, id), isNull(takes.made)));
}

/**
 * Changes what stands beside a take, merged with what others changed meanwhile. New overrides make its passport anew, move the cuts of its
 * clips when its rate is conformed to another, and are remembered for the suit. Changes of one take wait for each other.
 *
 * @param before what the change was made on: see `merged`
 */
export async function changeTake(database: Database, id: string, patch: TakePatch, before?: TakePatch): Promise<TakeChanged> {
  return database.transaction(async (transaction): Promise<TakeChanged> => {
    const [row] = await transaction.select().from(takes).where(eq(takes.id, id)).for('update');
    if (!row) return { outcome: 'missing' };
    const result = merged<TakePatch>(row, before, patch);
    if (result.outcome === 'conflict') return { outcome: 'conflict', fields: result.fields, take: row };
    const { overrides, ...plain } = result.value;
    const change: Partial<TakeRow> = { ...plain };
    if (overrides && JSON.stringify(overrides) !== JSON.stringify(row.overrides)) {
      const { passport, motion } = row.long
        ? await describeLong(transaction, row, overrides)
        : describeTake(await readStored(transaction, row), overrides);
      Object.assign(change, { overrides, passport, path: row.long ? row.path : pathOf(motion) });
      const { project, signature } = row;
      await transaction
        .insert(repairs)
        .values({ project, signature, overrides })
        .onConflictDoUpdate({ target: [repairs.project, repairs.signature], set: { overrides } });
      const [was, is] = [stepOf(row, row.overrides), stepOf(row, overrides)];
      if (was !== is) await moveCuts(transaction, id, was, is, passport.frames);
    }
    if (Object.keys(change).length === 0) return { outcome: 'changed', take: row };
    const [changed] = await transaction.update(takes).set(change).where(eq(takes.id, id)).returning();
    return { outcome: 'changed', take: changed };
  });
}
