import { z } from 'zod';
import { shareOf } from '@/server/arrivals';
import { missing, respond } from '@/server/respond';

/** How much of a file that is being read has been read. */
export async function GET(request: Request, { params }: { params: Promise<{ arrival: string }> }): Promise<Response> {
  return respond(request, async () => {
    const share = shareOf(z.uuid().parse((await params).arrival));
    return share === null ? missing('file being read') : Response.json({ share });
  });
}
