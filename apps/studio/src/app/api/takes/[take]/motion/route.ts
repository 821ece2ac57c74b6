import { z } from 'zod';
import { database } from '@/server/database';
import { missing, respond } from '@/server/respond';
import { readMotionBytes } from '@/server/takes';

/** Which chunks are asked for; all of them unless told. */
const stretch = z.object({ from: z.coerce.number().int().min(0).default(0), chunks: z.coerce.number().int().min(1).default(Infinity) });

/** A take's rows of float32, all or some chunks of them. A take never changes, so neither does this. */
export async function GET(request: Request, { params }: { params: Promise<{ take: string }> }): Promise<Response> {
  return respond(request, async () => {
    const take = z.uuid().parse((await params).take);
    const { from, chunks } = stretch.parse(Object.fromEntries(new URL(request.url).searchParams));
    const etag = `"${take} ${from} ${chunks}"`;
    if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers: { etag } });
    const bytes = await readMotionBytes(database(), take, chunks, from);
    if (!bytes) return missing('take');
    return new Response(new Uint8Array(bytes), {
      headers: { 'content-type': 'application/octet-stream', etag, 'cache-control': 'private, max-age=31536000, immutable' },
    });
  });
}
