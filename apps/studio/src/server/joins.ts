import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { JoinRow, JoinSave } from '@/http/join';
import type { Database } from './database';
import { joins } from './schema';

type Stored = typeof joins.$inferSelect;
const joinOf = ({ id, project, name, document, revision, updated }: Stored): JoinRow => ({
  id,
  project,
  name,
  ...document,
  revision,
  updated,
});

export async function listJoins(database: Database, project: string): Promise<JoinRow[]> {
  const rows = await database
    .select()
    .from(joins)
    .where(and(eq(joins.project, project), isNull(joins.removed)))
    .orderBy(asc(joins.created), asc(joins.id));
  return rows.map(joinOf);
}

export type JoinSaveResult =
  | { readonly outcome: 'saved'; readonly join: JoinRow }
  /** Someone saved after the revision this save started from; `join` is what stands (null: removed). */
  | { readonly outcome: 'conflict'; readonly join: JoinRow | null };

const next = sql`${joins.revision} + 1`;

/** Saves a join if it is still at the revision that the save started from; a removed join may come back (undo). */
export async function saveJoin(
  database: Database,
  project: string,
  id: string,
  { revision, name, pieces, start }: JoinSave,
): Promise<JoinSaveResult> {
  const values = { name, document: { pieces, start } };
  if (revision === 0) {
    const [made] = await database
      .insert(joins)
      .values({ id, project, ...values })
      .onConflictDoNothing()
      .returning();
    if (made) return { outcome: 'saved', join: joinOf(made) };
  }
  return changeJoin(database, project, id, revision, { ...values, removed: null });
}

/** Takes a join out; its row stays, so that an undo can bring it back. */
export const removeJoin = (database: Database, project: string, id: string, revision: number): Promise<JoinSaveResult> =>
  changeJoin(database, project, id, revision, { removed: new Date() });

async function changeJoin(
  database: Database,
  project: string,
  id: string,
  revision: number,
  change: Partial<Pick<Stored, 'name' | 'document' | 'removed'>>,
): Promise<JoinSaveResult> {
  const [done] = await database
    .update(joins)
    .set({ ...change, revision: next, updated: new Date() })
    .where(and(eq(joins.id, id), eq(joins.project, project), eq(joins.revision, revision)))
    .returning();
  if (done) return { outcome: 'saved', join: joinOf(done) };
  const [stands] = await database
    .select()
    .from(joins)
    .where(and(eq(joins.id, id), isNull(joins.removed)));
  return { outcome: 'conflict', join: stands ? joinOf(stands) : null };
}
