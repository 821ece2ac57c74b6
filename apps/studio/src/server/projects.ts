import { z } from 'zod';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { newProjectInput, type NewProjectInput } from '@/http/projects';
import type { Database } from './database';
import { projects } from './schema';

export type ProjectRow = typeof projects.$inferSelect;

/** A project that is there; one that was removed is not. */
export async function findProject(database: Pick<Database, 'select'>, id: string): Promise<ProjectRow | null> {
  const [project] = await database
    .select()
    .from(projects)
    .where(and(eq(projects.id, id), isNull(projects.removed)));
  return project ?? null;
}

export async function firstProject(database: Database): Promise<ProjectRow | null> {
  const [project] = await database.select().from(projects).where(isNull(projects.removed)).orderBy(asc(projects.created)).limit(1);
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

/** A project of its own in which nothing is yet. */
export async function beginProject(database: Database, input: NewProjectInput): Promise<string> {
  const id = await freeProjectId(database, input.name);
  await database.insert(projects).values({ ...input, id });
  return id;
}

/** Takes a project out of the list. */
export async function removeProject(database: Database, id: string): Promise<boolean> {
  const done = await database
    .update(projects)
    .set({ removed: new Date() })
    .where(and(eq(projects.id, id), isNull(projects.removed)))
    .returning({ id: projects.id });
  return done.length > 0;
}

/** What of a project its people change; one that was removed is brought back. */
export const projectInput = z
  .object({
    ...newProjectInput.pick({ name: true, character: true }).shape,
    ...{ namePattern: z.string().trim().min(1).max(200), fitTo: z.string().max(200), settlesFloor: z.boolean() },
    removed: z.literal(false),
  })
  .partial();

export async function changeProject(
  database: Database,
  id: string,
  { removed, ...input }: z.infer<typeof projectInput>,
): Promise<ProjectRow | null> {
  const change = { ...input, ...(removed === false && { removed: null }) };
  if (Object.keys(change).length === 0) return findProject(database, id);
  const [project] = await database.update(projects).set(change).where(eq(projects.id, id)).returning();
  return project ?? null;
}
