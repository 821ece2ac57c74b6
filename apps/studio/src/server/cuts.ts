import { isDeepStrictEqual } from 'node:util';
import { pieceAtRate, stepsAtRate, type JoinPiece, type TakeOverrides } from '@lantern/motion';
import { eq, inArray, sql, type AnyColumn, type SQL } from 'drizzle-orm';
import type { Database } from './database';
import { clips, joins, takes, type FilePieces } from './schema';

/** Frames of the file from one frame of the take to the next: other than 1 only when it is conformed to another rate. */
export const stepOf = (row: Pick<typeof takes.$inferSelect, 'fps'>, { fps, conform }: TakeOverrides): number =>
  conform === undefined ? 1 : (fps ?? row.fps) / conform;

/** What reads and writes within one transaction. */
type Writing = Pick<Database, 'update' | 'select'>;

/** A take's way from one rate to another, as frames of its file from one frame to the next. */
interface RateChange {
  readonly before: number;
  readonly after: number;
}

/** No clip ends behind this frame: how long a join is nobody has measured here. */
const ANY_LENGTH = 2 ** 31 - 1;

/**
 * Moves what is said in frames of a take to where it is at another rate: the cuts and the steps of its clips, the pieces of joins that come from the take or from
 * those clips, the clips that are cut from those joins, and so on. Where all of it is in the file is kept, so that going there and back, as undo does, changes nothing by
 * a frame.
 *
 * @param frames of the take at its new rate
 */
export async function moveCuts(database: Writing, take: string, before: number, after: number, frames: number): Promise<void> {
  const change = { before, after };
  const done = new Set<string>();
  const sources = new Set([take, ...(await moveClips(database, eq(clips.take, take), change, frames))]);
  const ofTake = database.select({ project: takes.project }).from(takes).where(eq(takes.id, take));
  const all = await database.select().from(joins).where(inArray(joins.project, ofTake));
  for (;;) {
    const joined = await movePieces(
      database,
      all.filter(({ id }) => !done.has(id)),
      sources,
      change,
    );
    if (joined.length === 0) return;
    for (const id of joined) done.add(id);
    sources.clear();
    for (const id of await moveClips(database, inArray(clips.join, joined), change, ANY_LENGTH)) sources.add(id);
  }
}

/** Moves some clips' cuts and steps. @returns their ids */
async function moveClips(database: Writing, which: SQL, { before, after }: RateChange, frames: number): Promise<string[]> {
  const inFile = (column: AnyColumn, kept: AnyColumn) => sql`coalesce(${kept}, ${column} * ${before}::float8)`;
  const moved = (place: SQL, least: number, most: number) =>
    sql`greatest(${least}::int, least(${most}::int, floor(${place} / ${after}::float8 + 0.5)::int))`;
  const from = inFile(clips.from, clips.fileFrom);
  const to = inFile(clips.to, clips.fileTo);
  await database
    .update(clips)
    .set({
      fileFrom: from,
      fileTo: to,
      from: moved(from, 0, frames - 2),
      to: moved(to, 1, frames - 1),
      revision: sql`${clips.revision} + 1`,
    })
    .where(which);
  const stored = await database.select({ id: clips.id, steps: clips.steps, fileSteps: clips.fileSteps }).from(clips).where(which);
  for (const { id, steps, fileSteps } of stored) {
    const kept = fileSteps ?? { step: before, steps };
    await database
      .update(clips)
      .set({ steps: stepsAtRate(kept.steps, kept.step / after), fileSteps: kept })
      .where(eq(clips.id, id));
  }
  return stored.map(({ id }) => id);
}

/** Moves the pieces of joins that come from some takes or clips. @returns the ids of the joins that have any */
async function movePieces(
  database: Writing,
  all: readonly (typeof joins.$inferSelect)[],
  sources: ReadonlySet<string>,
  { before, after }: RateChange,
): Promise<string[]> {
  const moved: string[] = [];
  for (const { id, document, filePieces } of all) {
    const isOf = (piece: JoinPiece) => sources.has('clip' in piece ? piece.clip : piece.take);
    if (!document.pieces.some(isOf)) continue;
    moved.push(id);
    const kept: Record<string, FilePieces[string]> = {};
    const pieces = document.pieces.map((piece, i) => {
      if (!isOf(piece)) return piece;
      const key = piece.id ?? String(i);
      const known = filePieces[key];
      // What somebody has changed since is where he put it.
      const { step, then } = known && isDeepStrictEqual(known.now, piece) ? known : { step: before, then: piece };
      const now = pieceAtRate(then, step / after);
      kept[key] = { step, then, now };
      return now;
    });
    await database
      .update(joins)
      .set({ document: { ...document, pieces }, filePieces: { ...filePieces, ...kept }, revision: sql`${joins.revision} + 1` })
      .where(eq(joins.id, id));
  }
  return moved;
}
