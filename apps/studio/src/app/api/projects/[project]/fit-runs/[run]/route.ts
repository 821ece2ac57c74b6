import { z } from 'zod';
import { database } from '@/server/database';
import { stopRun } from '@/server/fit-jobs';
import { respond } from '@/server/respond';

/** Stops what has not ended. */
export async function DELETE(request: Request, { params }: { params: Promise<{ project: string; run: string }> }): Promise<Response> {
  return respond(request, async () => Response.json({ stopped: await stopRun(database(), z.uuid().parse((await params).run)) }));
}
