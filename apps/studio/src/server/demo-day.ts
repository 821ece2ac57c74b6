import { count, eq } from 'drizzle-orm';
import { loadDay } from './capture-day';
import { saveClip } from './clips';
import type { Database } from './database';
import { addCast, DEMO } from './demo';
import { draftFor } from './draft-set';
import { projects } from './schema';
import { saveSet } from './sets';
import { listTakes } from './takes';

/** The project of a captured day whose set was drafted, as anybody drafts one; it is called so much longer until it is. */
export const DEMO_DAY = { id: 'a-day-on-the-quay', name: 'A day on the quay', character: 'Wick', unfinished: ', being drafted' } as const;

/**
 * Makes the project of a captured day beside the demo project: its takes, and the set that the program drafts from them. It is made where there is nothing but the demo
 * project, and gone on with where it was left unfinished; otherwise nothing happens.
 *
 * @param load brings the takes in
 * @returns whether it was made
 */
export async function makeDemoDay(database: Database, load: typeof loadDay = loadDay): Promise<boolean> {
  const { id, character, unfinished } = DEMO_DAY;
  const name = DEMO_DAY.name + unfinished;
  const [begun] = await database.select().from(projects).where(eq(projects.id, id));
  if (begun && (begun.name !== name || begun.removed)) return false;
  if (!begun) {
    const [{ all }] = await database.select({ all: count() }).from(projects);
    const [demo] = await database.select({ id: projects.id }).from(projects).where(eq(projects.id, DEMO.id));
    if (all !== 1 || !demo || (await listTakes(database, DEMO.id)).length === 0) return false;
    await database.insert(projects).values({ id, name, character });
  }
  await addCast(database, id);
  await load(database, id);
  const { clips, set } = await draftFor(database, id, { name: 'lamplighter', character: 'wick', slots: 'full', like: null });
  for (const clip of clips) await saveClip(database, id, clip.id, { ...clip, revision: 0 });
  await saveSet(database, id, set.id, { ...set, revision: 0 });
  // Somebody may have called it otherwise meanwhile.
  const [now] = await database.select({ name: projects.name }).from(projects).where(eq(projects.id, id));
  if (now?.name === name) await database.update(projects).set({ name: DEMO_DAY.name }).where(eq(projects.id, id));
  return true;
}
