import { z } from 'zod';
import { database } from '@/server/database';
import { missing, respond } from '@/server/respond';
import { readMotionBytes } from '@/server/takes';

/** A take's rows of float32. A take never changes, so neither does this. */
export async function GET(request: Request, { params }: { params: Promise<{ take: string }> }): Promise<Response> {
  return respond(request, async () => {
    const take = z.uuid().parse((await params).take);
    const etag = `"${take}"`;
    if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers: { etag } });
    const bytes = await readMotionBytes(database(), take);
    if (!bytes) return missing('take');
    return new Response(new Uint8Array(bytes), {
      headers: { 'content-type': 'application/octet-stream', etag, 'cache-control': 'private, max-age=31536000, immutable' },
    });
  });
}
