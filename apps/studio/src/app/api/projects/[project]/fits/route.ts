import { fitInput, saveFit } from '@/server/characters';
import { database } from '@/server/database';
import { readJson, respond } from '@/server/respond';

/** Saves what is settled for a suit and a character. */
export async function PUT(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    return Response.json(await saveFit(database(), project, await readJson(request, fitInput)));
  });
}
