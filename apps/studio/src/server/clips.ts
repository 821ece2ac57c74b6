import { stepSchema } from '@lantern/motion';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Database } from './database';
import { clips, takes } from './schema';

/** What a save sends: the whole clip, and the revision it started from (0 for a new one). */
export const clipInput = z.object({
  take: z.uuid(),
  name: z.string().trim().min(1).max(120),
  from: z.int().min(0),
  to: z.int().min(1),
  steps: z.array(stepSchema).max(50),
  gait: z.string().trim().max(60).default(''),
  direction: z.string().trim().max(60).default(''),
  revision: z.int().min(0),
});
type ClipInputWhole = z.infer<typeof clipInput>;
export type ClipInput = Omit<ClipInputWhole, 'gait' | 'direction'> & Partial<Pick<ClipInputWhole, 'gait' | 'direction'>>;

export type ClipRow = Pick<
  typeof clips.$inferSelect,
  'id' | 'project' | 'take' | 'name' | 'from' | 'to' | 'steps' | 'gait' | 'direction' | 'revision' | 'updated'
>;

const columns = {
  id: clips.id,
  project: clips.project,
  take: clips.take,
  name: clips.name,
  from: clips.from,
  to: clips.to,
  steps: clips.steps,
  gait: clips.gait,
  direction: clips.direction,
  revision: clips.revision,
  updated: clips.updated,
};

export async function listClips(database: Database, project: string): Promise<ClipRow[]> {
  return database
    .select(columns)
    .from(clips)
    .where(and(eq(clips.project, project), isNull(clips.removed)))
    .orderBy(asc(clips.created), asc(clips.id));
}

export type SaveResult =
  | { readonly outcome: 'saved'; readonly clip: ClipRow }
  /** Someone saved after the revision this save started from; `clip` is what stands (null: removed). */
  | { readonly outcome: 'conflict'; readonly clip: ClipRow | null }
  | { readonly outcome: 'invalid'; readonly message: string };

/** Saves a clip if it is still at the revision that the save started from; a removed clip may come back (undo). */
export async function saveClip(database: Database, project: string, id: string, input: ClipInput): Promise<SaveResult> {
  const [take] = await database
    .select({ passport: takes.passport })
    .from(takes)
    .where(and(eq(takes.id, input.take), eq(takes.project, project)));
  if (!take) return { outcome: 'invalid', message: 'The take that this clip is cut from is not in the project.' };
  if (input.from >= input.to || input.to > take.passport.frames - 1) {
    return {
      outcome: 'invalid',
      message: `The cut ${input.from} to ${input.to} does not lie in the take, whose frames go from 0 to ${take.passport.frames - 1}.`,
    };
  }
  const { revision, ...values } = input;
  if (revision === 0) {
    const made = await database
      .insert(clips)
      .values({ id, project, ...values })
      .onConflictDoNothing()
      .returning(columns);
    if (made.length > 0) return { outcome: 'saved', clip: made[0] };
  }
  const saved = await database
    .update(clips)
    // A cut that was moved is no longer where it was in the file.
    .set({
      ...values,
      fileFrom: sql`case when ${clips.from} = ${values.from} then ${clips.fileFrom} end`,
      fileTo: sql`case when ${clips.to} = ${values.to} then ${clips.fileTo} end`,
      revision: sql`${clips.revision} + 1`,
      updated: new Date(),
      removed: null,
    })
    .where(and(eq(clips.id, id), eq(clips.project, project), eq(clips.revision, revision)))
    .returning(columns);
  if (saved.length > 0) return { outcome: 'saved', clip: saved[0] };
  return { outcome: 'conflict', clip: await findClip(database, id) };
}

/** Takes a clip out; its row stays, so that an undo can bring it back. */
export async function removeClip(database: Database, project: string, id: string, revision: number): Promise<SaveResult> {
  const done = await database
    .update(clips)
    .set({ removed: new Date(), revision: sql`${clips.revision} + 1`, updated: new Date() })
    .where(and(eq(clips.id, id), eq(clips.project, project), eq(clips.revision, revision)))
    .returning(columns);
  if (done.length > 0) return { outcome: 'saved', clip: done[0] };
  return { outcome: 'conflict', clip: await findClip(database, id) };
}

async function findClip(database: Database, id: string): Promise<ClipRow | null> {
  const [clip] = await database
    .select(columns)
    .from(clips)
    .where(and(eq(clips.id, id), isNull(clips.removed)));
  return clip ?? null;
}
