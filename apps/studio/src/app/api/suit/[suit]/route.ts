import { z } from 'zod';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { missing, readJson, respond } from '@/server/respond';
import { commandSuit, disconnectSuit, recordingOf, setSuit, suitSettingsSchema } from '@/server/suit';
import { importTake } from '@/server/takes';

type Context = { params: Promise<{ suit: string }> };

const fileName = z
  .string()
  .trim()
  .min(1)
  .max(120)
  .regex(/^[^/\\:*?"<>|]+$/, 'has characters that a file name cannot have');
const actionSchema = z.discriminatedUnion('action', [
  z.object({ action: z.enum(['calibrate', 'record', 'stop', 'discard']) }),
  z.object({ action: z.literal('settings'), settings: suitSettingsSchema }),
  z.object({ action: z.literal('keep'), project: z.string(), name: fileName }),
]);

/** What the desk asks of the suit; keeping a recording brings it in like any file. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { suit } = await params;
    const asked = await readJson(request, actionSchema);
    if (asked.action === 'settings') return Response.json(setSuit(suit, asked.settings));
    if (asked.action !== 'keep') {
      commandSuit(suit, asked.action);
      return Response.json({ outcome: 'done' });
    }
    if (!(await findProject(database(), asked.project))) return missing('project');
    const take = await importTake(database(), asked.project, `${asked.name}.bvh`, recordingOf(suit));
    commandSuit(suit, 'discard');
    return Response.json(take, { status: 201 });
  });
}

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => Response.json({ outcome: disconnectSuit((await params).suit) ? 'off' : 'was off' }));
}
