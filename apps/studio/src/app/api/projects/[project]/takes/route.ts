import { MOST_BYTES } from '@lantern/motion';
import { z } from 'zod';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { importStream, STREAMED_BYTES } from '@/server/long-takes';
import { missing, respond } from '@/server/respond';
import { withSpooled } from '@/server/spool';
import { importFile } from '@/server/takes';

const fileName = z.string().trim().min(1).max(200);

/** Imports a file: its bytes are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    const file = fileName.parse(new URL(request.url).searchParams.get('file'));
    return withSpooled(request, MOST_BYTES, async (spooled) => {
      const isLong = /\.bvh$/i.test(file) && spooled.size > STREAMED_BYTES;
      const result = isLong
        ? await importStream(database(), project, file, spooled.stream())
        : await importFile(database(), project, file, await spooled.bytes());
      return Response.json(result, { status: 201 });
    });
  });
}
