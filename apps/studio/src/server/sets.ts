import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { SetRow, SetSave } from '@/http/set';
import type { Database } from './database';
import { sets } from './schema';

type Stored = typeof sets.$inferSelect;
const setOf = ({ id, project, name, document, revision, updated }: Stored): SetRow => ({
  ...document,
  id,
  project,
  name,
  revision,
  updated,
});

export async function listSets(database: Database, project: string): Promise<SetRow[]> {
  const rows = await database
    .select()
    .from(sets)
    .where(and(eq(sets.project, project), isNull(sets.removed)))
    .orderBy(asc(sets.created), asc(sets.id));
  return rows.map(setOf);
}

export type SetSaveResult =
  | { readonly outcome: 'saved'; readonly set: SetRow }
  /** Someone saved after the revision this save started from; `set` is what stands (null: removed). */
  | { readonly outcome: 'conflict'; readonly set: SetRow | null };

/** Saves a set if it is still at the revision that the save started from; a removed set may come back (undo). */
export async function saveSet(
  database: Database,
  project: string,
  id: string,
  { revision, name, ...document }: SetSave,
): Promise<SetSaveResult> {
  if (revision === 0) {
    const [made] = await database.insert(sets).values({ id, project, name, document }).onConflictDoNothing().returning();
    if (made) return { outcome: 'saved', set: setOf(made) };
  }
  return change(database, project, id, revision, { name, document, removed: null });
}

/** Takes a set out; its row stays, so that an undo can bring it back. */
export const removeSet = (database: Database, project: string, id: string, revision: number): Promise<SetSaveResult> =>
  change(database, project, id, revision, { removed: new Date() });

async function change(
  database: Database,
  project: string,
  id: string,
  revision: number,
  values: Partial<Pick<Stored, 'name' | 'document' | 'removed'>>,
): Promise<SetSaveResult> {
  const isIt = and(eq(sets.id, id), eq(sets.project, project));
  const [done] = await database
    .update(sets)
    .set({ ...values, revision: sql`${sets.revision} + 1`, updated: new Date() })
    .where(and(isIt, eq(sets.revision, revision)))
    .returning();
  if (done) return { outcome: 'saved', set: setOf(done) };
  const [stands] = await database
    .select()
    .from(sets)
    .where(and(isIt, isNull(sets.removed)));
  return { outcome: 'conflict', set: stands ? setOf(stands) : null };
}
