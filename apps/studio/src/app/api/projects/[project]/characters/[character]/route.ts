import { removeCharacter } from '@/server/characters';
import { database } from '@/server/database';
import { conflict, missing, respond } from '@/server/respond';

type Context = { params: Promise<{ project: string; character: string }> };

export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return respond(request, async () => {
    const { project, character } = await params;
    const outcome = await removeCharacter(database(), project, character);
    if (outcome === 'missing') return missing('character');
    if (outcome === 'has-clips') return conflict('has-clips', 'Clips are fitted to this character; fit them to another first.');
    return Response.json({ outcome });
  });
}
