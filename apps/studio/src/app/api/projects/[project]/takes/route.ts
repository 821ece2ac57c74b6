import { MOST_BYTES } from '@lantern/motion';
import { z } from 'zod';
import { followed } from '@/server/arrivals';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { readApart } from '@/server/read-apart';
import { missing, respond } from '@/server/respond';
import { withSpooled } from '@/server/spool';
import type { ImportResult } from '@/server/takes';

const fileName = z.string().trim().min(1).max(200);

/** Imports a file: its bytes are the body, its name is in the query, and what its sender calls it while it is read. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    const file = fileName.parse(new URL(request.url).searchParams.get('file'));
    const arrival = z.uuid().nullable().parse(new URL(request.url).searchParams.get('arrival'));
    return withSpooled(request, MOST_BYTES, async ({ path, size }) => {
      const result = await followed(arrival, (told) =>
        readApart<ImportResult>({ kind: 'take', project, file, path, size }, { signal: request.signal, told }),
      );
      return Response.json(result, { status: 201 });
    });
  });
}
