import { randomUUID } from 'node:crypto';
import { and, eq, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import { InputError } from '@lantern/motion';
import type { Database } from './database';
import { characterPieces } from './pieces';
import { findProject, freeProjectId } from './projects';
import { characters, clips, filePieces, fits, joins, projects, repairs, sets, skeletonFiles, takes } from './schema';

const UUID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g;

/**
 * A project once more, with all that is in it; what was removed, and what shipped, stays with the first.
 *
 * @returns what it goes by
 * @throws InputError when there is no such project
 */
export async function copyProject(database: Database, from: string): Promise<string> {
  return database.transaction(async (transaction) => {
    const own = transaction as unknown as Database;
    const source = await findProject(own, from);
    if (!source) throw new InputError('project', 'The project is not there any more.');
    const name = await freeName(own, source.name);
    const id = await freeProjectId(own, name);
    await transaction.insert(projects).values({ ...source, id, name, created: new Date(), removed: null });
    const ownClips = and(eq(clips.project, from), isNull(clips.removed));
    const held = {
      // What a clip is cut from goes along though it was removed: no copy may hang on another project.
      takes: await transaction
        .select()
        .from(takes)
        .where(
          and(
            eq(takes.project, from),
            or(
              isNull(takes.removed),
              inArray(
                takes.id,
                transaction
                  .select({ id: clips.take })
                  .from(clips)
                  .where(and(ownClips, isNotNull(clips.take))),
              ),
            ),
          ),
        ),
      joins: await transaction
        .select()
        .from(joins)
        .where(
          and(
            eq(joins.project, from),
            or(
              isNull(joins.removed),
              inArray(
                joins.id,
                transaction
                  .select({ id: clips.join })
                  .from(clips)
                  .where(and(ownClips, isNotNull(clips.join))),
              ),
            ),
          ),
        ),
      clips: await transaction.select().from(clips).where(ownClips),
      sets: await transaction
        .select()
        .from(sets)
        .where(and(eq(sets.project, from), isNull(sets.removed))),
      fits: await transaction.select().from(fits).where(eq(fits.project, from)),
      repairs: await transaction.select().from(repairs).where(eq(repairs.project, from)),
    };
    const ids = new Map([...held.takes, ...held.joins, ...held.clips, ...held.sets].map((row) => [row.id, randomUUID()] as const));
    const idOf = (old: string): string => ids.get(old) ?? old;
    /** The same with every id in it that is another in the copy. */
    const moved = <T>(value: T): T => JSON.parse(JSON.stringify(value).replace(UUID, idOf)) as T;

    for (const row of held.takes) {
      await transaction.insert(takes).values({ ...row, id: idOf(row.id), project: id, made: row.made && moved(row.made) });
      await transaction.execute(
        sql`insert into take_chunks (take, index, bytes) select ${idOf(row.id)}::uuid, index, bytes from take_chunks where take = ${row.id}`,
      );
      await transaction.execute(
        sql`insert into take_overviews (take, about, bytes) select ${idOf(row.id)}::uuid, about, bytes from take_overviews where take = ${row.id}`,
      );
    }
    for (const { id: old, document, filePieces: pieces, ...row } of held.joins)
      await transaction.insert(joins).values({ ...row, id: idOf(old), project: id, document: moved(document), filePieces: moved(pieces) });
    for (const { id: old, take, join, ...row } of held.clips)
      await transaction
        .insert(clips)
        .values({ ...row, id: idOf(old), project: id, take: take && idOf(take), join: join && idOf(join), steps: moved(row.steps) });
    for (const { id: old, document, ...row } of held.sets)
      await transaction.insert(sets).values({ ...row, id: idOf(old), project: id, document: moved(document) });
    for (const row of held.fits) await transaction.insert(fits).values({ ...row, project: id, settings: moved(row.settings) });
    for (const row of held.repairs) await transaction.insert(repairs).values({ ...row, project: id });
    await transaction.execute(
      sql`insert into ${skeletonFiles} (project, hash, file, bytes, created) select ${id}, hash, file, bytes, created from skeleton_files where project = ${from}`,
    );
    const cast = await transaction
      .select()
      .from(characters)
      .where(and(eq(characters.project, from), isNull(characters.removed)));
    for (const row of cast) {
      await transaction.insert(characters).values({ ...row, project: id });
      await transaction.execute(
        sql`insert into ${filePieces} (file, index, bytes) select ${characterPieces(id, row.hash)}, index, bytes from file_pieces where file = ${characterPieces(from, row.hash)} on conflict do nothing`,
      );
    }
    return id;
  });
}

/** A name that no project has: the same with a number. */
async function freeName(database: Database, name: string): Promise<string> {
  const taken = new Set(
    (await database.select({ name: projects.name }).from(projects).where(isNull(projects.removed))).map((own) => own.name),
  );
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`)) return `${name} ${n}`;
}
