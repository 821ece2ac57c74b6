import { z } from 'zod';
import { database } from '@/server/database';
import { makeOverview } from '@/server/long-takes';
import { conflict, missing, readJson, respond } from '@/server/respond';
import { takePatchSchema } from '@lantern/motion';
import { changeTake, removeTake, restoreTake } from '@/server/takes';

type Context = { params: Promise<{ take: string }> };

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const outcome = await removeTake(database(), z.uuid().parse((await params).take));
    if (outcome === 'missing') return missing('take');
    if (outcome === 'has-clips') return conflict('has-clips', 'Clips are cut from this take; remove them first.');
    return Response.json({ outcome });
  });
}

/** Brings a removed take back. */
export async function PUT(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const found = await restoreTake(database(), z.uuid().parse((await params).take));
    return found ? Response.json({ outcome: 'restored' }) : missing('take');
  });
}

/** Changes what stands beside a take: name, tags, notes, star, markers, props, and what is overruled. */
export async function PATCH(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const patch = await readJson(request, takePatchSchema);
    const changed = await changeTake(database(), z.uuid().parse((await params).take), patch);
    if (changed?.long && patch.overrides) await makeOverview(database(), changed);
    return changed ? Response.json(changed) : missing('take');
  });
}
