import { z } from 'zod';
import { database } from '@/server/database';
import { missing, readJson, respond } from '@/server/respond';
import { bringBack, shipmentReport, stopOrTakeBack } from '@/server/ship/shipments';

type Context = { params: Promise<{ shipment: string }> };
const idOf = async ({ params }: Context) => z.uuid().parse((await params).shipment);

/** The report of a shipment: figures of every clip, what was written again and why. */
export async function GET(request: Request, context: Context): Promise<Response> {
  return respond(request, async () => {
    const report = await shipmentReport(database(), await idOf(context));
    return report ? Response.json(report) : missing('shipment');
  });
}

/** Stops a shipment that is on its way; takes back one that has ended. */
export async function DELETE(request: Request, context: Context): Promise<Response> {
  return respond(request, async () => {
    const outcome = await stopOrTakeBack(database(), await idOf(context));
    return outcome ? Response.json({ outcome }) : missing('shipment');
  });
}

const changeInput = z.object({ removed: z.literal(false) });

/** Brings back a shipment that was taken back. */
export async function PATCH(request: Request, context: Context): Promise<Response> {
  return respond(request, async () => {
    await readJson(request, changeInput);
    return (await bringBack(database(), await idOf(context))) ? Response.json({}) : missing('shipment');
  });
}
