import { z } from 'zod';
import type { CharacterRow } from '@/server/characters';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { readApart } from '@/server/read-apart';
import { missing, respond } from '@/server/respond';
import { withSpooled } from '@/server/spool';

const fileName = z.string().trim().min(1).max(200);
/** A character with its textures is smaller than a take of half an hour. */
const MOST_BYTES = 100_000_000;

/** Brings in a character: the bytes of its GLB are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    const file = fileName.parse(new URL(request.url).searchParams.get('file'));
    return withSpooled(request, MOST_BYTES, async ({ path, size }) =>
      Response.json(await readApart<CharacterRow>({ kind: 'character', project, file, path, size }, { signal: request.signal }), {
        status: 201,
      }),
    );
  });
}
