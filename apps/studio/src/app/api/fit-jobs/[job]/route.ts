import { z } from 'zod';
import { database } from '@/server/database';
import { fitFile } from '@/server/fit-jobs';
import { missing, respond } from '@/server/respond';

/** The fitted take as a GLB. */
export async function GET(request: Request, { params }: { params: Promise<{ job: string }> }): Promise<Response> {
  return respond(request, async () => {
    const bytes = await fitFile(database(), z.uuid().parse((await params).job));
    if (!bytes) return missing('file');
    return new Response(new Uint8Array(bytes), { headers: { 'content-type': 'model/gltf-binary' } });
  });
}
