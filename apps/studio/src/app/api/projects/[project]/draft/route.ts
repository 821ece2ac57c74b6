import { draftInput, type Drafted } from '@/http/draft';
import { followed } from '@/server/arrivals';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { readApart } from '@/server/read-apart';
import { missing, readJson, respond } from '@/server/respond';

/** Drafts a set from all takes of a project; whoever asks for it stores it, or does not. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    const input = await readJson(request, draftInput);
    if (!(await findProject(database(), project))) return missing('project');
    return Response.json(
      await followed(input.arrival, (told) =>
        readApart<Drafted>({ kind: 'draft', project, input }, { signal: request.signal, told, longest: LONGEST }),
      ),
    );
  });
}

/** A day of takes may take a slow machine some minutes, seconds. */
const LONGEST = 900;
