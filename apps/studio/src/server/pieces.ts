import { and, asc, eq } from 'drizzle-orm';
import type { Database } from './database';
import { filePieces } from './schema';

/** Bytes of a piece: a value of a query is sent as text twice as long. */
const PIECE = 4_000_000;

/** What a character's file is called among the pieces. */
export const characterPieces = (project: string, hash: string): string => `character ${project} ${hash}`;
/** What the file that a take came in is called among the pieces. */
export const takePieces = (hash: string): string => `take ${hash}`;
/** What the file of a fitted take is called among the pieces. */
export const fitPieces = (job: string): string => `fit ${job}`;

/** Stores a file piece by piece, in the place of one that is there under its name. */
export async function writePieces(transaction: Pick<Database, 'insert' | 'delete'>, file: string, bytes: Uint8Array): Promise<void> {
  await transaction.delete(filePieces).where(eq(filePieces.file, file));
  for (let index = 0; index * PIECE < bytes.length; index++) {
    const piece = Buffer.from(bytes.buffer, bytes.byteOffset + index * PIECE, Math.min(PIECE, bytes.length - index * PIECE));
    // Somebody else may store the same at the same moment: names tell contents, so that theirs is as good.
    await transaction.insert(filePieces).values({ file, index, bytes: piece }).onConflictDoNothing();
  }
}

/** Whether a file is stored. */
export async function hasPieces(database: Pick<Database, 'select'>, file: string): Promise<boolean> {
  const [held] = await database
    .select({ file: filePieces.file })
    .from(filePieces)
    .where(and(eq(filePieces.file, file), eq(filePieces.index, 0)));
  return held !== undefined;
}

/** Stores a file as it comes, a piece at a time, under a name for now; `keep` gives it its own, unless one is there under that already. */
export function pieceWriter(transaction: Pick<Database, 'insert' | 'update' | 'delete' | 'select'>, unnamed: string) {
  let [index, held] = [0, 0];
  let parts: Uint8Array[] = [];
  const flush = async () => {
    await transaction.insert(filePieces).values({ file: unnamed, index: index++, bytes: Buffer.concat(parts) });
    [parts, held] = [[], 0];
  };
  return {
    async write(part: Uint8Array): Promise<void> {
      parts.push(part);
      held += part.length;
      if (held >= PIECE) await flush();
    },
    async keep(file: string): Promise<void> {
      if (held > 0) await flush();
      if (await hasPieces(transaction, file)) await transaction.delete(filePieces).where(eq(filePieces.file, unnamed));
      else await transaction.update(filePieces).set({ file }).where(eq(filePieces.file, unnamed));
    },
  };
}

/** A stored file, or null when there is none of the name. */
export async function readPieces(database: Pick<Database, 'select'>, file: string): Promise<Buffer | null> {
  const pieces = await database
    .select({ bytes: filePieces.bytes })
    .from(filePieces)
    .where(eq(filePieces.file, file))
    .orderBy(asc(filePieces.index));
  return pieces.length > 0 ? Buffer.concat(pieces.map(({ bytes }) => bytes)) : null;
}
