import { z } from 'zod';
import { clipSaveSchema } from '@/http/clip';
import { removeClip, saveClip, type SaveResult } from '@/server/clips';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { conflict, missing, readJson, respond } from '@/server/respond';

type Context = { params: Promise<{ project: string; clip: string }> };

const answer = (result: SaveResult): Response => {
  switch (result.outcome) {
    case 'saved':
      return Response.json(result.clip);
    case 'invalid':
      return Response.json({ code: 'cut', message: result.message }, { status: 422 });
    case 'conflict':
      return conflict('revision', 'This clip was saved elsewhere after you opened it.', { clip: result.clip });
  }
};

export async function PUT(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, clip } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    return answer(await saveClip(database(), project, z.uuid().parse(clip), await readJson(request, clipSaveSchema)));
  });
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, clip } = await params;
    const revision = z.coerce.number().int().parse(new URL(request.url).searchParams.get('revision'));
    return answer(await removeClip(database(), project, z.uuid().parse(clip), revision));
  });
}
