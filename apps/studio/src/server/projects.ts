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

/** What of a project its people change. */
export const projectInput = z
  .object({ namePattern: z.string().trim().min(1).max(200), fitTo: z.string().max(200), settlesFloor: z.boolean() })
  .partial();

export async function changeProject(database: Database, id: string, input: z.infer<typeof projectInput>): Promise<ProjectRow | null> {
  const [project] = await database.update(projects).set(input).where(eq(projects.id, id)).returning();
  return project ?? null;
}
