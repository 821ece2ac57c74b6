import { fitInput, saveFit } from '@/server/characters';
import { database } from '@/server/database';
import { conflict, readJson, respond } from '@/server/respond';

/** Saves what is settled for a suit and a character. */
export async function PUT(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project } = await params;
    const result = await saveFit(database(), project, await readJson(request, fitInput));
    if (result.outcome === 'saved') return Response.json(result.fit);
    return conflict('conflict', 'This fit was changed elsewhere meanwhile: what stands there is shown now, and nothing was overwritten.', {
      fit: result.fit,
      fields: result.fields,
    });
  });
}
