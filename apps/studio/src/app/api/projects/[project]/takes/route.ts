import { MOST_BYTES } from '@lantern/motion';
import { z } from 'zod';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { importStream, STREAMED_BYTES } from '@/server/long-takes';
import { bodyParts, missing, readBody, respond } from '@/server/respond';
import { importFile } from '@/server/takes';

const fileName = z.string().trim().min(1).max(200);

/** Imports a file: its bytes are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    const file = fileName.parse(new URL(request.url).searchParams.get('file'));
    if (/\.bvh$/i.test(file) && Number(request.headers.get('content-length') ?? 0) > STREAMED_BYTES) {
      return Response.json(await importStream(database(), project, file, bodyParts(request, MOST_BYTES)), { status: 201 });
    }
    const bytes = await readBody(request, MOST_BYTES);
    return Response.json(await importFile(database(), project, file, bytes), { status: 201 });
  });
}
