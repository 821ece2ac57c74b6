import { z } from 'zod';
import { database } from '@/server/database';
import { readOverview } from '@/server/long-takes';
import { missing, respond } from '@/server/respond';

/** What is drawn along a long take's time axis. */
export async function GET(request: Request, { params }: { params: Promise<{ take: string }> }): Promise<Response> {
  return respond(request, async () => {
    const bytes = await readOverview(database(), z.uuid().parse((await params).take));
    return bytes ? new Response(new Uint8Array(bytes), { headers: { 'content-type': 'application/octet-stream' } }) : missing('overview');
  });
}
