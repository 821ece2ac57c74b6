import { database } from '@/server/database';
import { boss, fitRunInput, newestRun, startRun } from '@/server/fit-jobs';
import { readJson, respond } from '@/server/respond';

type Context = { params: Promise<{ project: string }> };

/** The jobs of the newest run. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => Response.json(await newestRun(database(), (await params).project)));
}

/** Puts takes and characters into the queue. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const input = await readJson(request, fitRunInput);
    return Response.json({ run: await startRun(database(), await boss(), (await params).project, input) }, { status: 201 });
  });
}
