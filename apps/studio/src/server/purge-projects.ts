import { lt, sql } from 'drizzle-orm';
import { KEPT_DAYS } from '@/http/project-facts';
import type { Database } from './database';
import { characterPieces, fitPieces, takePieces } from './pieces';
import { projects } from './schema';
import { clipPieces } from './ship/made-clips';
import { madePieces } from './ship/pack-shipment';

/** Deletes projects that were removed long ago, with all that is in them. */
export async function purgeProjects(database: Database): Promise<void> {
  const old = await database
    .select({ id: projects.id })
    .from(projects)
    .where(lt(projects.removed, sql`now() - ${`${KEPT_DAYS} days`}::interval`));
  for (const { id } of old) await purge(database, id);
}

async function purge(database: Database, id: string): Promise<void> {
  await database.transaction(async (transaction) => {
    // Whoever brings it back at this moment waits, and finds nothing; who has done so already keeps it.
    const { rows } = await transaction.execute(sql`select 1 from projects where id = ${id} and removed is not null for update`);
    if (rows.length === 0) return;
    await transaction.execute(
      sql`delete from file_pieces f using fit_jobs j where j.project = ${id} and f.file = ${fitPieces('')} || j.id`,
    );
    await transaction.execute(sql`delete from file_pieces where file like ${characterPieces(id, '%')}`);
    await transaction.execute(
      sql`delete from file_pieces f using made_clips m, ship_documents d where d.project = ${id} and m.document = d.hash and f.file = ${clipPieces('')} || m.key`,
    );
    await transaction.execute(sql`delete from made_clips m using ship_documents d where d.project = ${id} and m.document = d.hash`);
    for (const table of [
      'shipments',
      'ship_documents',
      'clips',
      'joins',
      'sets',
      'fits',
      'fit_jobs',
      'repairs',
      'skeleton_files',
      'characters',
      'takes',
    ])
      await transaction.execute(sql`delete from ${sql.identifier(table)} where project = ${id}`);
    await transaction.execute(sql`delete from projects where id = ${id}`);
    // Files of takes, and files that were shipped, are told by their content: those stay that others have too.
    await transaction.execute(
      sql`delete from file_pieces f where f.file like ${takePieces('%')} and not exists (select 1 from takes where f.file = ${takePieces('')} || split_part(hash, ' ', 1))`,
    );
    await transaction.execute(
      sql`delete from file_pieces f where f.file like ${madePieces('%')} and not exists (select 1 from shipment_files where f.file = ${madePieces('')} || hash)`,
    );
  });
}
