import { respond } from '@/server/respond';
import { connectSuit, suitSettingsSchema } from '@/server/suit';

/** Switches a simulated suit on. */
export async function POST(request: Request): Promise<Response> {
  return respond(request, async () => Response.json(connectSuit(suitSettingsSchema.parse(await request.json())), { status: 201 }));
}
