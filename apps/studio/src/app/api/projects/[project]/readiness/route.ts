import { readinessInput } from '@/http/shipment';
import { database } from '@/server/database';
import { boss } from '@/server/fit-jobs';
import { missing, readJson, respond } from '@/server/respond';
import { readiness } from '@/server/ship/readiness';

/** Every clip and join as it would leave; what is not known yet is put into the queue. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { ship } = await readJson(request, readinessInput);
    const rows = await readiness(database(), await boss(), (await params).project, ship);
    return rows ? Response.json({ rows }) : missing('project');
  });
}
