import { asc, eq } from 'drizzle-orm';
import type { Database } from './database';
import { filePieces } from './schema';

/** Bytes of a piece: a value of a query is sent as text twice as long. */
const PIECE = 4_000_000;

/** What a character's file is called among the pieces. */
export const characterPieces = (project: string, hash: string): string => `character ${project} ${hash}`;
/** What the file of a fitted take is called among the pieces. */
export const fitPieces = (job: string): string => `fit ${job}`;

/** Stores a file piece by piece, in the place of one that is there under its name. */
export async function writePieces(transaction: Pick<Database, 'insert' | 'delete'>, file: string, bytes: Uint8Array): Promise<void> {
  await transaction.delete(filePieces).where(eq(filePieces.file, file));
  for (let index = 0; index * PIECE < bytes.length; index++) {
    const piece = Buffer.from(bytes.buffer, bytes.byteOffset + index * PIECE, Math.min(PIECE, bytes.length - index * PIECE));
    await transaction.insert(filePieces).values({ file, index, bytes: piece });
  }
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
