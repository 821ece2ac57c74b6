import { z } from 'zod';
import { shareOf } from '@/server/arrivals';
import { respond } from '@/server/respond';

/** How much of a file that is being read has been read; null where it is not being read: it waits still, or is done. */
export async function GET(request: Request, { params }: { params: Promise<{ arrival: string }> }): Promise<Response> {
  return respond(request, async () => Response.json({ share: shareOf(z.uuid().parse((await params).arrival)) }));
}
