import { z } from 'zod';
import { database } from '@/server/database';
import { readApart } from '@/server/read-apart';
import { conflict, missing, readJson, respond } from '@/server/respond';
import { takeChangeSchema } from '@/http/take-change';
import { removeTake, restoreTake } from '@/server/remove-take';
import { changeTake, noteMade, type TakeChanged } from '@/server/takes';

const CHANGED = 'were changed elsewhere meanwhile: what stands there is shown now, and nothing was overwritten.';

type Context = { params: Promise<{ take: string }> };

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const outcome = await removeTake(database(), z.uuid().parse((await params).take));
    if (outcome === 'missing') return missing('take');
    if (outcome === 'has-clips') return conflict('has-clips', 'Clips or pieces of joins are cut from this take; remove them first.');
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
    const { before, made, ...patch } = await readJson(request, takeChangeSchema);
    const take = z.uuid().parse((await params).take);
    if (made) await noteMade(database(), take, made);
    // What is overruled is measured anew, which takes its time; the rest is one row.
    const result = patch.overrides
      ? await readApart<TakeChanged>({ kind: 'change', take, patch, before })
      : await changeTake(database(), take, patch, before);
    if (result.outcome === 'missing') return missing('take');
    if (result.outcome === 'conflict') {
      const what = result.fields.join(' and ');
      return conflict('conflict', `The ${what} of “${result.take.name}” ${CHANGED}`, { take: result.take, fields: result.fields });
    }
    return Response.json(result.take);
  });
}
