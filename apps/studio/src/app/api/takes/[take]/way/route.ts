import { z } from 'zod';
import { readApart } from '@/server/read-apart';
import { missing, respond } from '@/server/respond';

/** The way of one joint through a long take: float32, x, y, z and its turn for every frame. */
export async function GET(request: Request, { params }: { params: Promise<{ take: string }> }): Promise<Response> {
  return respond(request, async () => {
    const joint = z.string().min(1).max(200).parse(new URL(request.url).searchParams.get('joint'));
    const way = await readApart<Float32Array | null>({ kind: 'way', take: z.uuid().parse((await params).take), joint });
    if (!way) return missing('joint');
    return new Response(new Uint8Array(way.buffer as ArrayBuffer), { headers: { 'content-type': 'application/octet-stream' } });
  });
}
