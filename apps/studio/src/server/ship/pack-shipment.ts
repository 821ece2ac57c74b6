import { createHash } from 'node:crypto';
import {
  charactersOf,
  clipFromBytes,
  InputError,
  mirrorOf,
  packProject,
  projectInputs,
  whyWritten,
  type FailedClip,
  type MadeFile,
  type NamedShipped,
  type Report,
  type WrittenFile,
} from '@lantern/motion';
import { validateGlb } from '@lantern/unpack';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Database } from '../database';
import { log } from '../log';
import { readPieces, writePieces } from '../pieces';
import { filePieces } from '../schema';
import { madeClips, shipmentClips, shipmentFiles, shipments } from './tables';
import { toLog } from '../trouble';
import { contentIn, type OpenDocument } from './document';
import { castOf, readDocument } from './make-clip';
import { clipPieces, waysOf } from './made-clips';
import { lastShipment } from './shipments';

/** What a shipped file is called among the pieces: by its content, so that what did not change is kept once. */
export const madePieces = (hash: string): string => `made ${hash}`;

/** A shipment whose clips are all made, or cannot be; taken for oneself. Null when there is none. */
export async function claimShipment(database: Database): Promise<{ id: string; project: string; document: string } | null> {
  const { rows } = await database.execute<{ id: string; project: string; document: string }>(sql`
    update shipments set state = 'packing', beat = now(), tries = tries + 1
    where id = (
      select s.id from shipments s where s.state = 'making' and not exists (
        select 1 from shipment_clips c left join made_clips m on m.key = c.key
        where c.shipment = s.id and (m.key is null or m.state in ('waiting', 'running')))
      order by s.created limit 1 for update skip locked)
    returning id, project, document`);
  return rows[0] ?? null;
}

/** Still wanted, and alive. */
async function isWanted(database: Database, id: string): Promise<boolean> {
  const rows = await database
    .update(shipments)
    .set({ beat: new Date() })
    .where(and(eq(shipments.id, id), eq(shipments.state, 'packing')))
    .returning({ id: shipments.id });
  return rows.length > 0;
}

class Stopped extends Error {}

/** Milliseconds between signs of life. */
const BEAT = 1500;

/** Gives a sign of life now and then. @throws Stopped when the shipment is not wanted any more */
function breathing(database: Database, id: string): () => Promise<void> {
  let last = 0;
  return async () => {
    if (performance.now() - last < BEAT) return;
    if (!(await isWanted(database, id))) throw new Stopped();
    last = performance.now();
  };
}

/** Puts the clips of a shipment into files. Whatever happens is written down. */
export async function packClaimed(
  database: Database,
  { id, project, document: hash }: { readonly id: string; readonly project: string; readonly document: string },
): Promise<void> {
  try {
    const document = await readDocument(database, hash);
    const breathe = breathing(database, id);
    const { made, failed } = await clipsOf(database, id, document, breathe);
    if (made.length === 0) throw new InputError('empty', `No clip could be made. ${failed[0]?.name ?? ''}: ${failed[0]?.message ?? ''}`);
    // What a worker wrote who died is written again, to the same bytes.
    await database.delete(shipmentFiles).where(eq(shipmentFiles.shipment, id));
    const files: ShippedFile[] = [];
    let waiting: (ShippedFile & MadeFile)[] = [];
    const keepWaiting = async (): Promise<void> => {
      await breathe();
      await keepFiles(database, id, files.length - waiting.length, waiting);
      waiting = [];
    };
    const write = async (file: MadeFile): Promise<void> => {
      const own = { ...file, hash: createHash('sha256').update(file.bytes).digest('hex') };
      files.push({ path: own.path, hash: own.hash, size: own.bytes.length });
      waiting.push({ ...own, size: own.bytes.length });
      if (waiting.length >= MOST_FILES || waiting.reduce((sum, { size }) => sum + size, 0) > MOST_WAITING) await keepWaiting();
    };
    const { parsed } = document;
    const packed = await packProject(parsed, made, failed, await castOf(database, project, document), write, validateGlb, breathe);
    const before = await lastShipment(database, project, id);
    const report: Report = { ...packed, written: await writtenSince(database, files, packed, before) };
    await write({
      path: `${folderOf(parsed.ship.glb)}report.json`,
      bytes: new TextEncoder().encode(`${JSON.stringify(report, null, 1)}\n`),
    });
    if (waiting.length > 0) await keepWaiting();
    await database
      .update(shipments)
      .set({ state: 'done', report, listed: { written: report.written ?? [], failed: failed.length }, finished: new Date() })
      .where(and(eq(shipments.id, id), eq(shipments.state, 'packing')));
  } catch (error) {
    if (error instanceof Stopped) return;
    if (!(error instanceof InputError)) log.error(toLog(error), 'a shipment failed');
    const message = error instanceof InputError ? error.message : 'Something went wrong on our side.';
    await database
      .update(shipments)
      .set({ state: 'failed', message, finished: new Date() })
      .where(and(eq(shipments.id, id), eq(shipments.state, 'packing')));
  }
}

const folderOf = (path: string): string => path.replace(/[^/]*$/, '');

async function clipsOf(
  database: Database,
  id: string,
  document: OpenDocument,
  breathe: () => Promise<void>,
): Promise<{ made: NamedShipped[]; failed: FailedClip[] }> {
  const { parsed } = document;
  const rows = await database
    .select({
      name: shipmentClips.name,
      key: shipmentClips.key,
      state: madeClips.state,
      failure: madeClips.failure,
    })
    .from(shipmentClips)
    .leftJoin(madeClips, eq(madeClips.key, shipmentClips.key))
    .where(eq(shipmentClips.shipment, id))
    .orderBy(asc(shipmentClips.index));
  const inputs = projectInputs(parsed, contentIn(document));
  const characters = charactersOf(parsed);
  const made: NamedShipped[] = [];
  const failed: FailedClip[] = [];
  for (const { name, key, state, failure } of rows) {
    await breathe();
    const clip = parsed.clips.find((own) => own.name === name);
    const take = clip?.source.take ?? name;
    const bytes = state === 'done' ? await readPieces(database, clipPieces(key)) : null;
    if (!bytes) {
      const { code, message, place } = failure ?? { code: 'missing', message: 'It was not made.', place: {} };
      failed.push({ name, take, code, message, place });
      continue;
    }
    made.push({
      name,
      take,
      character: clip ? characters.clip(clip) : characters.join(name),
      gait: clip?.gait ?? '',
      direction: clip?.direction ?? '',
      mirrorOf: clip ? mirrorOf(parsed.clips, clip) : null,
      shipped: clipFromBytes(bytes, waysOf(parsed.ship)),
      inputs: inputs(name),
    });
  }
  return { made, failed };
}

/** Files that are kept together, at the most: by themselves each would take some ways to the database and back. */
const MOST_FILES = 24;
/** Bytes after which those that wait are kept. */
const MOST_WAITING = 8_000_000;

interface ShippedFile {
  readonly path: string;
  readonly hash: string;
  readonly size: number;
}

/** @param first the place of the first of them among all files of the shipment */
async function keepFiles(
  database: Database,
  shipment: string,
  first: number,
  files: readonly (ShippedFile & Pick<MadeFile, 'bytes'>)[],
): Promise<void> {
  await database.transaction(async (transaction) => {
    const names = files.map(({ hash }) => madePieces(hash));
    const held = await transaction.selectDistinct({ file: filePieces.file }).from(filePieces).where(inArray(filePieces.file, names));
    const known = new Set(held.map(({ file }) => file));
    for (const { hash, bytes } of files) {
      if (known.has(madePieces(hash))) continue;
      known.add(madePieces(hash));
      await writePieces(transaction, madePieces(hash), bytes);
    }
    await transaction
      .insert(shipmentFiles)
      .values(files.map(({ path, hash, size }, i) => ({ shipment, index: first + i, path, hash, bytes: size })));
  });
}

/** What is not as it was in the shipment before, and why. */
async function writtenSince(
  database: Database,
  files: readonly ShippedFile[],
  now: Report,
  before: Awaited<ReturnType<typeof lastShipment>>,
): Promise<WrittenFile[]> {
  const held = before
    ? await database
        .select({ path: shipmentFiles.path, hash: shipmentFiles.hash })
        .from(shipmentFiles)
        .where(eq(shipmentFiles.shipment, before.id))
    : [];
  const hashes = new Map(held.map(({ path, hash }) => [path, hash]));
  const written = files.map(({ path, hash, size: bytes }): WrittenFile => {
    const then = hashes.get(path);
    if (then === hash) return { path, bytes, state: 'same', why: [] };
    return { path, bytes, state: then ? 'changed' : 'new', why: whyWritten(path, now, then && before ? before.report : null) };
  });
  const gone = held.filter(({ path }) => !path.endsWith('report.json') && !files.some((own) => own.path === path));
  return [...written, ...gone.map(({ path }): WrittenFile => ({ path, bytes: 0, state: 'gone', why: ['it is none of the shipment'] }))];
}
