import { z } from 'zod';
import { importCharacter } from '@/server/characters';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { missing, readBody, respond } from '@/server/respond';

const fileName = z.string().trim().min(1).max(200);
/** A character with its textures is smaller than a take of half an hour. */
const MOST_BYTES = 100_000_000;

/** Brings in a character: the bytes of its GLB are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    const file = fileName.parse(new URL(request.url).searchParams.get('file'));
    return Response.json(await importCharacter(database(), project, file, await readBody(request, MOST_BYTES)), { status: 201 });
  });
}
