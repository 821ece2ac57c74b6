import { z } from 'zod';
import { joinSaveSchema } from '@/http/join';
import { database } from '@/server/database';
import { removeJoin, saveJoin, type JoinSaveResult } from '@/server/joins';
import { findProject } from '@/server/projects';
import { conflict, missing, readJson, respond } from '@/server/respond';

type Context = { params: Promise<{ project: string; join: string }> };

const answer = (result: JoinSaveResult): Response =>
  result.outcome === 'saved'
    ? Response.json(result.join)
    : conflict('revision', 'This join was saved elsewhere after you opened it.', { join: result.join });

export async function PUT(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, join } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    return answer(await saveJoin(database(), project, z.uuid().parse(join), await readJson(request, joinSaveSchema)));
  });
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, join } = await params;
    const revision = z.coerce.number().int().parse(new URL(request.url).searchParams.get('revision'));
    return answer(await removeJoin(database(), project, z.uuid().parse(join), revision));
  });
}
