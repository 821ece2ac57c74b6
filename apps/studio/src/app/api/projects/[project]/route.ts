import { listCharacters, listFits } from '@/server/characters';
import { listClips } from '@/server/clips';
import { database } from '@/server/database';
import { listJoins } from '@/server/joins';
import { changeProject, findProject, projectInput, removeProject } from '@/server/projects';
import { listSets } from '@/server/sets';
import { missing, readJson, respond } from '@/server/respond';
import { listTakes } from '@/server/takes';

/** A project with its takes (without motion), clips, joins, sets, characters (without their files) and fits. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project: id } = await params;
    const project = await findProject(database(), id);
    if (!project) return missing('project');
    const [takes, clips, joins, sets, characters, fits] = await Promise.all([
      listTakes(database(), id),
      listClips(database(), id),
      listJoins(database(), id),
      listSets(database(), id),
      listCharacters(database(), id),
      listFits(database(), id),
    ]);
    return Response.json({ project, takes, clips, joins, sets, characters, fits });
  });
}

/** Changes what its people settle of a project: names, patterns, habits; or brings one back that was removed. */
export async function PATCH(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { project: id } = await params;
    const project = await changeProject(database(), id, await readJson(request, projectInput));
    return project ? Response.json(project) : missing('project');
  });
}

/** Takes a project out of the list; nothing of it is lost for some weeks. */
export async function DELETE(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => ((await removeProject(database(), (await params).project)) ? Response.json({}) : missing('project')));
}
