import { z } from 'zod';
import { followed } from '@/server/arrivals';
import { readApart } from '@/server/read-apart';
import { respond } from '@/server/respond';
import { withSpooled } from '@/server/spool';

/** The most that an archive of a project may have, bytes. */
const MOST_ARCHIVE = 4_000_000_000;
/** Seconds after which one is given up. */
const LONGEST = 3600;

/** Brings in a project that left as an archive, which is the body; what its sender calls it while it is read is in the query. */
export async function POST(request: Request): Promise<Response> {
  return respond(request, async () => {
    const arrival = z.uuid().nullable().parse(new URL(request.url).searchParams.get('arrival'));
    return withSpooled(request, MOST_ARCHIVE, async ({ path }) => {
      const id = await followed(arrival, (told) =>
        readApart<string>({ kind: 'archive', path }, { signal: request.signal, told, longest: LONGEST }),
      );
      return Response.json({ id }, { status: 201 });
    });
  });
}
