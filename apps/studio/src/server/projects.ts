import { z } from 'zod';
import { asc, eq } from 'drizzle-orm';
import type { Database } from './database';
import { projects } from './schema';

export type ProjectRow = typeof projects.$inferSelect;

export async function findProject(database: Database, id: string): Promise<ProjectRow | null> {
  const [project] = await database.select().from(projects).where(eq(projects.id, id));
  return project ?? null;
}

export async function firstProject(database: Database): Promise<ProjectRow | null> {
  const [project] = await database.select().from(projects).orderBy(asc(projects.created)).limit(1);
  return project ?? null;
}

/** What a project goes by in addresses: its name in plain letters, with a number where another has that. */
export async function freeProjectId(database: Pick<Database, 'select'>, name: string): Promise<string> {
  const stem =
    name
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 60) || 'project';
  const taken = new Set((await database.select({ id: projects.id }).from(projects)).map(({ id }) => id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!taken.has(id) && !RESERVED.has(id)) return id;
  }
}

/** First parts of addresses that are no project's. */
const RESERVED: ReadonlySet<string> = new Set(['api', 'enter', 'projects', 'favicon', 'icon']);

/** What of a project its people change. */
export const projectInput = z
  .object({ namePattern: z.string().trim().min(1).max(200), fitTo: z.string().max(200), settlesFloor: z.boolean() })
  .partial();

export async function changeProject(database: Database, id: string, input: z.infer<typeof projectInput>): Promise<ProjectRow | null> {
  const [project] = await database.update(projects).set(input).where(eq(projects.id, id)).returning();
  return project ?? null;
}
