import { stepsAtRate, type TakeOverrides } from '@lantern/motion';
import { eq, sql, type AnyColumn, type SQL } from 'drizzle-orm';
import type { Database } from './database';
import { clips, type takes } from './schema';

/** Frames of the file from one frame of the take to the next: other than 1 only when it is conformed to another rate. */
export const stepOf = (row: Pick<typeof takes.$inferSelect, 'fps'>, { fps, conform }: TakeOverrides): number =>
  conform === undefined ? 1 : (fps ?? row.fps) / conform;

/**
 * Moves the cuts of a take's clips, and what their steps say in frames, to where they are at another rate. Where they are in the file is kept,
 * so that going there and back, as undo does, changes nothing by a frame.
 */
export async function moveCuts(
  database: Pick<Database, 'update' | 'select'>,
  take: string,
  before: number,
  after: number,
  frames: number,
): Promise<void> {
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
    .where(eq(clips.take, take));
  const stored = await database
    .select({ id: clips.id, steps: clips.steps, fileSteps: clips.fileSteps })
    .from(clips)
    .where(eq(clips.take, take));
  for (const { id, steps, fileSteps } of stored) {
    const kept = fileSteps ?? { step: before, steps };
    await database
      .update(clips)
      .set({ steps: stepsAtRate(kept.steps, kept.step / after), fileSteps: kept })
      .where(eq(clips.id, id));
  }
}
