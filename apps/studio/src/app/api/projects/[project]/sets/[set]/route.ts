import { z } from 'zod';
import { setSaveSchema } from '@/http/set';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { conflict, missing, readJson, respond } from '@/server/respond';
import { removeSet, saveSet, type SetSaveResult } from '@/server/sets';

type Context = { params: Promise<{ project: string; set: string }> };

const answer = (result: SetSaveResult): Response =>
  result.outcome === 'saved'
    ? Response.json(result.set)
    : conflict('revision', 'This set was saved elsewhere after you opened it.', { set: result.set });

export async function PUT(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, set } = await params;
    if (!(await findProject(database(), project))) return missing('project');
    return answer(await saveSet(database(), project, z.uuid().parse(set), await readJson(request, setSaveSchema)));
  });
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, set } = await params;
    const revision = z.coerce.number().int().parse(new URL(request.url).searchParams.get('revision'));
    return answer(await removeSet(database(), project, z.uuid().parse(set), revision));
  });
}
