import { charactersOf, projectInputs, whyChanged, type ClipInputs, type Report, type ShipOptions } from '@lantern/motion';
import type PgBoss from 'pg-boss';
import type { ReadyRow } from '@/http/shipment';
import type { Database } from '../database';
import { contentIn, openDocument, projectDocument } from './document';
import { askForClips, keysIn } from './made-clips';
import { lastShipment } from './shipments';

/**
 * Every clip and join of a project as it would leave; what is not known yet is asked for. Those that stay behind are in it too.
 *
 * @returns null when there is no such project
 */
export async function readiness(
  database: Database,
  queue: Pick<PgBoss, 'insert'>,
  project: string,
  ship: ShipOptions,
): Promise<ReadyRow[] | null> {
  // Who stays behind changes nothing of how a clip is made: all are looked at.
  const found = await projectDocument(database, project, { ...ship, without: [] });
  if (!found) return null;
  if (found.project.clips.length === 0) return [];
  const document = openDocument(found);
  const keys = keysIn(document);
  const made = await askForClips(database, queue, project, document, keys);
  const characters = charactersOf(document.parsed);
  const inputs = projectInputs(document.parsed, contentIn(document));
  const last = await lastShipment(database, project);
  const ids = new Map(Object.entries(document.names).map(([id, name]) => [name, id]));
  return keys.flatMap(({ name, key }): ReadyRow[] => {
    const id = ids.get(name);
    if (id === undefined) return [];
    const clip = document.parsed.clips.find((own) => own.name === name);
    const row = made.get(key);
    return [
      {
        id,
        kind: clip ? 'clip' : 'join',
        name,
        character: clip ? characters.clip(clip) : characters.join(name),
        key,
        state: row?.state ?? 'waiting',
        about: row?.about ?? null,
        message: row?.failure?.message ?? null,
        ...sinceLast(name, inputs(name), last?.report ?? null),
      },
    ];
  });
}

function sinceLast(name: string, now: ClipInputs, last: Report | null): Pick<ReadyRow, 'since' | 'why'> {
  if (!last) return { since: null, why: [] };
  const then = [...last.clips, ...(last.joins ?? [])].find((own) => own.name === name)?.inputs;
  if (!then) return { since: 'new', why: ['it was not in the last shipment'] };
  const why = whyChanged(now, then);
  return { since: why.length > 0 ? 'changed' : 'same', why };
}
