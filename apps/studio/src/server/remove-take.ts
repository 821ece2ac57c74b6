import { and, count, eq, isNull, sql } from 'drizzle-orm';
import type { Database } from './database';
import { clips, joins, takes } from './schema';

/** Whether a join has a piece that is cut from a take. */
async function isJoined(database: Database, take: string): Promise<boolean> {
  const [{ held }] = await database
    .select({ held: count() })
    .from(joins)
    .where(and(isNull(joins.removed), sql`${joins.document}->'pieces' @> ${JSON.stringify([{ take }])}::jsonb`));
  return held > 0;
}

/** Takes a take out of the list; cuts of clips and of joins would hang in the air, so it must have none. */
export async function removeTake(database: Database, id: string): Promise<'removed' | 'has-clips' | 'missing'> {
  const [{ held }] = await database
    .select({ held: count() })
    .from(clips)
    .where(and(eq(clips.take, id), isNull(clips.removed)));
  if (held > 0 || (await isJoined(database, id))) return 'has-clips';
  const done = await database.update(takes).set({ removed: new Date() }).where(eq(takes.id, id)).returning({ id: takes.id });
  return done.length > 0 ? 'removed' : 'missing';
}

export async function restoreTake(database: Database, id: string): Promise<boolean> {
  const done = await database.update(takes).set({ removed: null }).where(eq(takes.id, id)).returning({ id: takes.id });
  return done.length > 0;
}
