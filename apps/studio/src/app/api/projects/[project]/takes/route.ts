import { MOST_BYTES } from '@lantern/motion';
import { z } from 'zod';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { missing, readBody, respond } from '@/server/respond';
import { importFile } from '@/server/takes';

const fileName = z.string().trim().min(1).max(200);

/** Imports a file: its bytes are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    const file = fileName.parse(new URL(request.url).searchParams.get('file'));
    const bytes = await readBody(request, MOST_BYTES);
    return Response.json(await importFile(database(), project, file, bytes), { status: 201 });
  });
}
