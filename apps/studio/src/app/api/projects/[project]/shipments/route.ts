import { shipmentInput } from '@/http/shipment';
import { database } from '@/server/database';
import { boss } from '@/server/fit-jobs';
import { missing, readJson, respond } from '@/server/respond';
import { listShipments, startShipment } from '@/server/ship/shipments';

type Context = { params: Promise<{ project: string }> };

/** Shipments so far, the newest first. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => Response.json({ shipments: await listShipments(database(), (await params).project) }));
}

/** Ships the project as it stands now. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { ship } = await readJson(request, shipmentInput);
    const id = await startShipment(database(), await boss(), (await params).project, ship);
    return id ? Response.json({ id }, { status: 201 }) : missing('project');
  });
}
