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
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Database } from '../database';
import { log } from '../log';
import { hasPieces, readPieces, writePieces } from '../pieces';
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

/** Puts the clips of a shipment into files. Whatever happens is written down. */
export async function packClaimed(
  database: Database,
  { id, project, document: hash }: { readonly id: string; readonly project: string; readonly document: string },
): Promise<void> {
  try {
    const document = await readDocument(database, hash);
    const { made, failed } = await clipsOf(database, id, document);
    if (made.length === 0) throw new InputError('empty', `No clip could be made. ${failed[0]?.name ?? ''}: ${failed[0]?.message ?? ''}`);
    // What a worker wrote who died is written again, to the same bytes.
    await database.delete(shipmentFiles).where(eq(shipmentFiles.shipment, id));
    const files: { path: string; hash: string; bytes: number }[] = [];
    const write = async (file: MadeFile): Promise<void> => {
      if (!(await isWanted(database, id))) throw new Stopped();
      files.push(await keepFile(database, id, files.length, file));
    };
    const { parsed } = document;
    const packed = await packProject(parsed, made, failed, await castOf(database, project, document), write, validateGlb);
    const before = await lastShipment(database, project, id);
    const report: Report = { ...packed, written: await writtenSince(database, files, packed, before) };
    await write({
      path: `${folderOf(parsed.ship.glb)}report.json`,
      bytes: new TextEncoder().encode(`${JSON.stringify(report, null, 1)}\n`),
    });
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

async function clipsOf(database: Database, id: string, document: OpenDocument): Promise<{ made: NamedShipped[]; failed: FailedClip[] }> {
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

async function keepFile(
  database: Database,
  shipment: string,
  index: number,
  { path, bytes }: MadeFile,
): Promise<{ path: string; hash: string; bytes: number }> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  await database.transaction(async (transaction) => {
    if (!(await hasPieces(transaction, madePieces(hash)))) await writePieces(transaction, madePieces(hash), bytes);
    await transaction.insert(shipmentFiles).values({ shipment, index, path, hash, bytes: bytes.length });
  });
  return { path, hash, bytes: bytes.length };
}

/** What is not as it was in the shipment before, and why. */
async function writtenSince(
  database: Database,
  files: readonly { readonly path: string; readonly hash: string; readonly bytes: number }[],
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
  const written = files.map(({ path, hash, bytes }): WrittenFile => {
    const then = hashes.get(path);
    if (then === hash) return { path, bytes, state: 'same', why: [] };
    return { path, bytes, state: then ? 'changed' : 'new', why: whyWritten(path, now, then && before ? before.report : null) };
  });
  const gone = held.filter(({ path }) => !path.endsWith('report.json') && !files.some((own) => own.path === path));
  return [...written, ...gone.map(({ path }): WrittenFile => ({ path, bytes: 0, state: 'gone', why: ['it is none of the shipment'] }))];
}
