import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { database } from '@/server/database';
import { readPieces } from '@/server/pieces';
import { missing, respond } from '@/server/respond';
import { shipmentFiles } from '@/server/ship/tables';
import { madePieces } from '@/server/ship/pack-shipment';

/** One file of a shipment. */
export async function GET(request: Request, { params }: { params: Promise<{ shipment: string; path: string[] }> }): Promise<Response> {
  return respond(request, async () => {
    const { shipment, path } = await params;
    const name = path.map(decodeURIComponent).join('/');
    const [file] = await database()
      .select({ hash: shipmentFiles.hash })
      .from(shipmentFiles)
      .where(and(eq(shipmentFiles.shipment, z.uuid().parse(shipment)), eq(shipmentFiles.path, name)));
    const bytes = file && (await readPieces(database(), madePieces(file.hash)));
    if (!bytes) return missing('file');
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': name.endsWith('.glb') ? 'model/gltf-binary' : 'application/octet-stream',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name.replace(/^.*\//, ''))}`,
      },
    });
  });
}
