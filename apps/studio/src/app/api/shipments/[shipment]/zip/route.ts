import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { database } from '@/server/database';
import { missing, respond } from '@/server/respond';
import { shipments } from '@/server/ship/tables';
import { shippedEntries, zipStream } from '@/server/ship/zip-stream';

/** All files of a shipment as one archive, as it is made: it may be asked for while the shipment is on its way. */
export async function GET(request: Request, { params }: { params: Promise<{ shipment: string }> }): Promise<Response> {
  return respond(request, async () => {
    const id = z.uuid().parse((await params).shipment);
    const [row] = await database()
      .select({ project: shipments.project, created: shipments.created })
      .from(shipments)
      .where(eq(shipments.id, id));
    if (!row) return missing('shipment');
    const day = row.created.toISOString().slice(0, 16).replace('T', '-').replace(':', '');
    return new Response(zipStream(shippedEntries(database(), id)), {
      headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${row.project}-${day}.zip"` },
    });
  });
}
