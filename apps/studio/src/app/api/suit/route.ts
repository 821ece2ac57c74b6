import { readJson, respond } from '@/server/respond';
import { connectSuit, suitSettingsSchema } from '@/server/suit';

/** Switches a simulated suit on. */
export async function POST(request: Request): Promise<Response> {
  return respond(request, async () => Response.json(connectSuit(await readJson(request, suitSettingsSchema)), { status: 201 }));
}
