import { createHash, randomUUID } from 'node:crypto';
import {
  applyOverrides,
  bareName,
  bvhStream,
  CHUNK_FRAMES,
  cutMotion,
  takeDescriber,
  InputError,
  joinMotions,
  jointWay,
  motionFromRows,
  motionToRows,
  stitchOverview,
  WAY_WIDTH,
  type Motion,
  type Passport,
  type TakeOverrides,
} from '@lantern/motion';
import { eq } from 'drizzle-orm';
import { stepOf } from './cuts';
import type { Database } from './database';
import { pathOf } from './path-of';
import { pieceWriter, takePieces } from './pieces';
import { takeChunks, takeOverviews, takes, type OverviewAbout } from './schema';
import {
  firstOverrides,
  heldTake,
  LONG_SAMPLES,
  MEASURED_FRAMES,
  ofWholeLength,
  readMotionBytes,
  type ImportResult,
  type Reading,
  type TakeRow,
} from './takes';

/** A BVH larger than this is read as it arrives, bytes. */
export const STREAMED_BYTES = 24_000_000;

/** Chunks in a stretch of the overview, and on both sides of it so that filters have settled. */
const STRETCH = 40;
const MARGIN = 4;

/**
 * Reads a long BVH as it arrives and stores it chunk by chunk: neither the text nor the motion is ever all in memory.
 *
 * @throws InputError as `readBvh` does, and nothing is stored
 */
export async function importStream(
  database: Database,
  project: string,
  file: string,
  parts: AsyncIterable<Uint8Array>,
): Promise<ImportResult> {
  const hash = createHash('sha256');
  const stream = bvhStream();
  const id = randomUUID();
  const duplicate = Symbol('duplicate');
  let heldName = '';
  try {
    const stored = await database.transaction(async (transaction) => {
      const writer = chunkWriter(transaction, { id, project, file, name: bareName(file) });
      const pieces = pieceWriter(transaction, `take ${id}`);
      for await (const part of parts) {
        hash.update(part);
        await pieces.write(part);
        await writer.store(stream.push(part), false);
      }
      const { motions, warnings } = stream.end();
      await writer.store(motions, true);
      const { frames, path, measured } = writer;
      if (measured.length === 0) throw new InputError('bvh-empty', 'The file has no frames of motion.', { line: 1 });
      const own = hash.digest('hex');
      const held = await heldTake(transaction, project, own);
      if (held !== undefined) {
        heldName = held;
        throw duplicate;
      }
      await pieces.keep(takePieces(own));
      const take = { name: bareName(file), format: 'bvh' as const, motion: joinMotions(measured), warnings };
      const describe = takeDescriber(take);
      const plain = describe({});
      const overrides = await firstOverrides(transaction, project, plain.passport);
      const { passport, motion } = describe(overrides);
      const isLong = frames * passport.joints > LONG_SAMPLES;
      const [row] = await transaction
        .update(takes)
        .set({
          hash: own,
          frames,
          signature: passport.signature,
          overrides,
          passport: frames > motion.frames ? ofWholeLength(passport, frames, stepOf(plain.passport, overrides)) : passport,
          long: isLong,
          path: frames > take.motion.frames ? pathOfRoots(path, take.motion, passport) : pathOf(motion),
        })
        .where(eq(takes.id, id))
        .returning();
      // Before the take is there for anybody: one that is cut off now leaves nothing behind.
      if (isLong) await makeOverview(transaction, row);
      return row;
    });
    return { takes: [stored], duplicates: [], skeleton: null };
  } catch (error) {
    if (error === duplicate) return { takes: [], duplicates: [heldName], skeleton: null };
    throw error;
  }
}

interface Draft {
  readonly id: string;
  readonly project: string;
  readonly file: string;
  readonly name: string;
}

/** Stores a motion chunk by chunk as it comes, and keeps of it what the passport is made on. */
function chunkWriter(transaction: Pick<Database, 'insert'>, draft: Draft) {
  const created = new Date();
  let carry: Motion | null = null;
  let index = 0;
  const writer = {
    frames: 0,
    /** Places of the root, one a chunk. */
    path: [] as number[],
    /** The first blocks. */
    measured: [] as Motion[],
    store: async (blocks: readonly Motion[], isEnd: boolean): Promise<void> => {
      if (blocks.length > 0 && writer.measured.length === 0)
        await transaction.insert(takes).values({ ...draftOf(blocks[0]), ...draft, created });
      for (const block of blocks) {
        if (writer.frames < MEASURED_FRAMES) writer.measured.push(block);
        writer.frames += block.frames;
      }
      const waiting = [...(carry ? [carry] : []), ...blocks];
      carry = null;
      if (waiting.length === 0) return;
      const joined = joinMotions(waiting);
      let at = 0;
      for (; joined.frames - at >= CHUNK_FRAMES || (isEnd && at < joined.frames); at += CHUNK_FRAMES) {
        const rows = motionToRows(joined, at, Math.min(CHUNK_FRAMES, joined.frames - at));
        writer.path.push(...joined.rootPositions.subarray(at * 3, at * 3 + 3));
        await transaction.insert(takeChunks).values({ take: draft.id, index: index++, bytes: Buffer.from(rows.buffer) });
      }
      carry = at < joined.frames ? cutMotion(joined, at, joined.frames - 1) : null;
    },
  };
  return writer;
}

/** What a take's row holds before its motion has been measured. */
function draftOf({ skeleton, fps, translations }: Motion) {
  return {
    frames: 0,
    fps,
    skeleton,
    moving: [...(translations?.keys() ?? [])],
    passport: {} as Passport,
    path: [] as number[],
  };
}

/** The way from above from one place per chunk, in file units. */
function pathOfRoots(places: readonly number[], { skeleton, fps }: Motion, { reading }: Passport): number[] {
  const step = Math.max(1, Math.ceil(places.length / 3 / 120)) * 3;
  const kept = places.filter((_, i) => Math.floor(i / 3) % (step / 3) === 0);
  const joints = skeleton.joints.length;
  const frames = kept.length / 3;
  const rotations = new Float32Array(frames * joints * 4).map((_, i) => (i % 4 === 3 ? 1 : 0));
  return pathOf(applyOverrides({ skeleton, fps, frames, rotations, rootPositions: Float32Array.from(kept) }, reading, {}));
}

/** Works out what is drawn along a long take's time axis, a stretch at a time, and stores it. */
export async function makeOverview(database: Pick<Database, 'select' | 'insert'>, row: TakeRow): Promise<void> {
  const stitch = stitchOverview(row.overrides.fps ?? row.fps, row.frames);
  for await (const { motion, first, from, to } of stretches(database, row, MARGIN)) stitch.add({ motion, first, from, to });
  const { contacts, floor, stride, ...curves } = stitch.result();
  const about: OverviewAbout = { contacts, floor, stride };
  const bytes = Buffer.concat([curves.speed, curves.hipHeight, curves.heading].map((curve) => Buffer.from(curve.buffer)));
  await database
    .insert(takeOverviews)
    .values({ take: row.id, about, bytes })
    .onConflictDoUpdate({ target: takeOverviews.take, set: { about, bytes } });
}

/** A long take in metres, a stretch at a time with a margin on both sides of it; frames count from the take's first. */
async function* stretches(database: Reading, row: TakeRow, margin: number) {
  const chunks = Math.ceil(row.frames / CHUNK_FRAMES);
  for (let chunk = 0; chunk < chunks; chunk += STRETCH) {
    const before = Math.max(0, chunk - margin);
    const bytes = await readMotionBytes(database, row.id, chunk - before + STRETCH + margin, before);
    if (!bytes) return;
    const rows = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
    const raw = motionFromRows(rows, row.skeleton, row.fps, row.moving);
    yield {
      motion: applyOverrides(raw, row.passport.reading, withoutConform(row.overrides)),
      first: before * CHUNK_FRAMES,
      from: chunk * CHUNK_FRAMES,
      to: Math.min(row.frames, (chunk + STRETCH) * CHUNK_FRAMES),
    };
  }
}

/** The way of a joint through a whole take, as `jointWay` has it, or null when there is no such take or joint. */
export async function readWay(database: Database, take: string, joint: string): Promise<Float32Array | null> {
  const [row] = await database.select().from(takes).where(eq(takes.id, take));
  if (!row?.skeleton.joints.some(({ name }) => name === joint)) return null;
  const out = new Float32Array(row.frames * WAY_WIDTH);
  for await (const { motion, from } of stretches(database, row, 0)) {
    const j = motion.skeleton.joints.findIndex(({ name }) => name === joint);
    if (j < 0) return null;
    out.set(jointWay(motion, j), from * WAY_WIDTH);
  }
  return out;
}

const withoutConform = ({ conform: _, ...overrides }: TakeOverrides): TakeOverrides => overrides;

/** The stored overview of a long take as one piece: the length of its JSON, the JSON, the curves. */
export async function readOverview(database: Database, take: string): Promise<Buffer | null> {
  const [found] = await database.select().from(takeOverviews).where(eq(takeOverviews.take, take));
  if (!found) return null;
  let json = JSON.stringify(found.about);
  // The curves begin at a whole number of floats.
  while ((Buffer.byteLength(json) + 4) % 4 !== 0) json += ' ';
  const length = Buffer.alloc(4);
  length.writeUInt32LE(Buffer.byteLength(json));
  return Buffer.concat([length, Buffer.from(json), found.bytes]);
}
