import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { ClipRow, ClipSave } from '@/http/clip';
import type { Database } from './database';
import { clips, joins, takes } from './schema';

const columns = {
  id: clips.id,
  project: clips.project,
  take: clips.take,
  join: clips.join,
  name: clips.name,
  from: clips.from,
  to: clips.to,
  steps: clips.steps,
  gait: clips.gait,
  direction: clips.direction,
  revision: clips.revision,
  updated: clips.updated,
};

type Stored = Pick<typeof clips.$inferSelect, keyof typeof columns>;

const clipOf = ({ take, join, from, to, ...rest }: Stored): ClipRow => ({ ...rest, source: { take: take ?? join ?? '', from, to } });

export async function listClips(database: Database, project: string): Promise<ClipRow[]> {
  const rows = await database
    .select(columns)
    .from(clips)
    .where(and(eq(clips.project, project), isNull(clips.removed)))
    .orderBy(asc(clips.created), asc(clips.id));
  return rows.map(clipOf);
}

export type SaveResult =
  | { readonly outcome: 'saved'; readonly clip: ClipRow }
  /** Someone saved after the revision this save started from; `clip` is what stands (null: removed). */
  | { readonly outcome: 'conflict'; readonly clip: ClipRow | null }
  | { readonly outcome: 'invalid'; readonly message: string };

/** Saves a clip if it is still at the revision that the save started from; a removed clip may come back (undo). */
export async function saveClip(database: Database, project: string, id: string, save: ClipSave): Promise<SaveResult> {
  const { revision, source, name, steps, gait, direction } = save;
  const found = await findSource(database, project, source);
  if (typeof found === 'string') return { outcome: 'invalid', message: found };
  const values = { ...found, from: source.from, to: source.to, name, steps, gait, direction };
  if (revision === 0) {
    const made = await database
      .insert(clips)
      .values({ id, project, ...values })
      .onConflictDoNothing()
      .returning(columns);
    if (made.length > 0) return { outcome: 'saved', clip: clipOf(made[0]) };
  }
  const saved = await database
    .update(clips)
    .set({
      ...values,
      // What was changed is no longer what it was at the file's rate.
      fileFrom: sql`case when ${clips.from} = ${values.from} then ${clips.fileFrom} end`,
      fileTo: sql`case when ${clips.to} = ${values.to} then ${clips.fileTo} end`,
      fileSteps: sql`case when ${clips.steps} = ${JSON.stringify(steps)}::jsonb then ${clips.fileSteps} end`,
      revision: sql`${clips.revision} + 1`,
      updated: new Date(),
      removed: null,
    })
    .where(and(eq(clips.id, id), eq(clips.project, project), eq(clips.revision, revision)))
    .returning(columns);
  if (saved.length > 0) return { outcome: 'saved', clip: clipOf(saved[0]) };
  return { outcome: 'conflict', clip: await findClip(database, id) };
}

/** The take or the join that a clip is cut from; a sentence where it cannot be cut so. How long a join is follows from its pieces: it is not told here. */
async function findSource(
  database: Database,
  project: string,
  { take: id, from, to }: ClipSave['source'],
): Promise<{ take: string | null; join: string | null } | string> {
  const [take] = await database
    .select({ passport: takes.passport, removed: takes.removed })
    .from(takes)
    .where(and(eq(takes.id, id), eq(takes.project, project)));
  const [join] = take
    ? []
    : await database
        .select({ removed: joins.removed })
        .from(joins)
        .where(and(eq(joins.id, id), eq(joins.project, project)));
  const source = take ?? join;
  if (!source) return 'What this clip is cut from is not in the project.';
  const what = take ? 'take' : 'join';
  if (source.removed) return `The ${what} that this clip is cut from was removed: bring it back first.`;
  const last = take ? take.passport.frames - 1 : Infinity;
  if (from >= to || to > last) {
    return take
      ? `The cut ${from} to ${to} does not lie in the take, whose frames go from 0 to ${last}.`
      : `The cut ${from} to ${to} has no frame.`;
  }
  return { take: take ? id : null, join: take ? null : id };
}

/** Takes a clip out; its row stays, so that an undo can bring it back. */
export async function removeClip(database: Database, project: string, id: string, revision: number): Promise<SaveResult> {
  const done = await database
    .update(clips)
    .set({ removed: new Date(), revision: sql`${clips.revision} + 1`, updated: new Date() })
    .where(and(eq(clips.id, id), eq(clips.project, project), eq(clips.revision, revision)))
    .returning(columns);
  if (done.length > 0) return { outcome: 'saved', clip: clipOf(done[0]) };
  return { outcome: 'conflict', clip: await findClip(database, id) };
}

async function findClip(database: Database, id: string): Promise<ClipRow | null> {
  const [clip] = await database
    .select(columns)
    .from(clips)
    .where(and(eq(clips.id, id), isNull(clips.removed)));
  return clip ? clipOf(clip) : null;
}
