import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { and, asc, eq } from 'drizzle-orm';
import type { Database } from '../database';
import { filePieces } from '../schema';
import { shipmentFiles, shipments } from './tables';
import { madePieces } from './pack-shipment';

/** A fixed date: the same files are the same archive. */
const MTIME = new Date(1980, 0, 2);
/** Milliseconds between looks for the next file of a shipment that is still being packed. */
const LOOK = 300;
/** Kinds of files that do not get smaller. */
const PACKED = /\.(glb|png|jpg)$/i;

/** Something that goes into an archive: what it is called there, and its bytes, a part at a time. */
export interface ZipEntry {
  readonly path: string;
  readonly parts: AsyncIterable<Uint8Array>;
}

/**
 * An archive as it is made: no more of it is held than a part or two, and whoever reads slowly is waited for.
 *
 * @param entries as they come; what fails in them fails the archive, so that half of one is never taken for a whole one
 */
export function zipStream(entries: AsyncIterable<ZipEntry>): ReadableStream<Uint8Array> {
  const made: Uint8Array[] = [];
  let failure: unknown = null;
  const zip = new Zip((error, data) => {
    if (error) failure = error;
    else made.push(data);
  });
  async function* archive(): AsyncGenerator<Uint8Array> {
    for await (const { path, parts } of entries) {
      const file = PACKED.test(path) ? new ZipPassThrough(path) : new ZipDeflate(path, { level: 6 });
      file.mtime = MTIME;
      zip.add(file);
      for await (const part of parts) {
        file.push(part);
        if (failure) throw failure;
        yield* made.splice(0);
      }
      file.push(new Uint8Array(0), true);
      yield* made.splice(0);
    }
    zip.end();
    yield* made.splice(0);
  }
  const parts = archive();
  return new ReadableStream({
    async pull(controller) {
      const { done, value } = await parts.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      zip.terminate();
      await parts.return(undefined);
    },
  });
}

/** A stored file, a piece at a time. */
export async function* piecesOf(database: Database, file: string): AsyncGenerator<Uint8Array> {
  for (let index = 0; ; index++) {
    const [piece] = await database
      .select({ bytes: filePieces.bytes })
      .from(filePieces)
      .where(and(eq(filePieces.file, file), eq(filePieces.index, index)));
    if (!piece) return;
    yield piece.bytes;
  }
}

/** The files of a shipment, as they are written while it is on its way. @throws Error when it does not arrive */
export async function* shippedEntries(database: Database, id: string, wait = LOOK): AsyncGenerator<ZipEntry> {
  for (let index = 0; ;) {
    const [file] = await database
      .select({ path: shipmentFiles.path, hash: shipmentFiles.hash })
      .from(shipmentFiles)
      .where(and(eq(shipmentFiles.shipment, id), eq(shipmentFiles.index, index)))
      .orderBy(asc(shipmentFiles.index));
    if (file) {
      yield { path: file.path, parts: piecesOf(database, madePieces(file.hash)) };
      index++;
      continue;
    }
    const [row] = await database.select({ state: shipments.state, message: shipments.message }).from(shipments).where(eq(shipments.id, id));
    if (!row || row.state === 'done') return;
    if (row.state === 'failed' || row.state === 'stopped') throw new Error(row.message || 'The shipment was stopped.');
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
}
