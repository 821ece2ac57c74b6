import { database } from '@/server/database';
import { projectArchive } from '@/server/archive/export';
import { missing, respond } from '@/server/respond';
import { zipStream } from '@/server/ship/zip-stream';

/** A whole project as one archive: its project file, takes as they came, characters. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    const entries = await projectArchive(database(), project);
    if (!entries) return missing('project');
    return new Response(zipStream(entries), {
      headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${project}.zip"` },
    });
  });
}
