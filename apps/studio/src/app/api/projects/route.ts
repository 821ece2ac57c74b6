import { projectStart } from '@/http/projects';
import { followed } from '@/server/arrivals';
import { copyProject } from '@/server/copy-project';
import { database } from '@/server/database';
import { listProjects } from '@/server/list-projects';
import { readApart } from '@/server/read-apart';
import { readJson, respond } from '@/server/respond';

/** All projects, with what is in them and the ways of their takes; those that were removed as well. */
export async function GET(request: Request): Promise<Response> {
  return respond(request, async () => Response.json({ projects: await listProjects(database()) }));
}

/** Begins a project: an empty one, a copy of one, the demo, or a capture day. */
export async function POST(request: Request): Promise<Response> {
  return respond(request, async () => {
    const start = await readJson(request, projectStart);
    const { signal } = request;
    const id =
      'copyOf' in start
        ? await copyProject(database(), start.copyOf)
        : 'demo' in start
          ? await followed(start.arrival, (told) => readApart<string>({ kind: 'demo' }, { signal, told }))
          : 'day' in start
            ? await followed(start.arrival, (told) => readApart<string>({ kind: 'day' }, { signal, told }))
            : await readApart<string>({ kind: 'begin', input: start }, { signal });
    return Response.json({ id }, { status: 201 });
  });
}
