import { importArchive } from '@/server/archive/import';
import { database } from '@/server/database';
import { respond } from '@/server/respond';
import { withSpooled } from '@/server/spool';

/** The most that an archive of a project may have, bytes. */
const MOST_ARCHIVE = 4_000_000_000;

/** Brings in a project that left as an archive, which is the body. */
export async function POST(request: Request): Promise<Response> {
  return respond(request, async () =>
    withSpooled(request, MOST_ARCHIVE, async ({ path }) => Response.json({ id: await importArchive(database(), path) }, { status: 201 })),
  );
}
