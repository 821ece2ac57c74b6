import { characterFile } from '@/server/characters';
import { database } from '@/server/database';
import { missing, respond } from '@/server/respond';

type Context = { params: Promise<{ project: string; character: string }> };

/** The GLB of a character, as it was brought in. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, character } = await params;
    const file = await characterFile(database(), project, character);
    if (!file) return missing('character');
    const etag = `"${file.hash}"`;
    if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers: { etag } });
    return new Response(new Uint8Array(file.bytes), {
      headers: { 'content-type': 'model/gltf-binary', etag, 'cache-control': 'private, no-cache' },
    });
  });
}
