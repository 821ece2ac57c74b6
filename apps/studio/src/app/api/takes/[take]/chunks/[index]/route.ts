import { z } from 'zod';
import { database } from '@/server/database';
import { missing, respond } from '@/server/respond';
import { readChunk } from '@/server/takes';

/** Some hundred frames of a take as rows of float32. A take never changes, so neither does this. */
export async function GET(request: Request, { params }: { params: Promise<{ take: string; index: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { take, index } = await params;
    const id = z.uuid().parse(take);
    const n = z.coerce.number().int().min(0).max(1e7).parse(index);
    const etag = `"${id}-${n}"`;
    if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers: { etag } });
    const bytes = await readChunk(database(), id, n);
    if (!bytes) return missing('part of a take');
    return new Response(new Uint8Array(bytes), {
      headers: { 'content-type': 'application/octet-stream', etag, 'cache-control': 'private, max-age=31536000, immutable' },
    });
  });
}
