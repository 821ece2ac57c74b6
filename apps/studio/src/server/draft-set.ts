import { randomUUID } from 'node:crypto';
import {
  draftCalled,
  draftProject,
  InputError,
  readCharacter,
  slotList,
  type ClipDocument,
  type Doubt,
  type DraftedSet,
  type DraftTake,
} from '@lantern/motion';
import type { z } from 'zod';
import type { draftInput, Drafted } from '@/http/draft';
import { setDocumentSchema } from '@/http/set';
import { characterFile, listFits } from './characters';
import { listClips } from './clips';
import type { Database } from './database';
import { listJoins } from './joins';
import { listSets } from './sets';
import { LONG_SAMPLES, listTakes, openMotion } from './takes';

/** Of the time that a draft takes, the share in which takes are opened. */
const OPENING = 0.08;

/**
 * Drafts a set from all takes of a project. Nothing is stored: the clips and the set are given back, by ids of their own.
 *
 * @param told hears how much of it is done, 0 to 1
 * @throws InputError `takes` when there is nothing to draft from, `character` when that is not there
 */
export async function draftFor(
  database: Database,
  project: string,
  { name, character, slots, like }: Omit<z.infer<typeof draftInput>, 'arrival'>,
  told: (share: number) => void = () => {},
): Promise<Drafted> {
  const rows = await listTakes(database, project);
  if (rows.length === 0) throw new InputError('takes', 'There is no take to draft a set from: bring some in first.');
  const file = character === null ? null : await characterFile(database, project, character);
  if (character !== null && !file) throw new InputError('character', `The character “${character}” is not in the project.`);
  const cast = file && character !== null ? new Map([[character, readCharacter(file.bytes, character)]]) : new Map();
  const sets = await listSets(database, project);
  const model = sets.find(({ id }) => id === like);
  const doubts: Doubt[] = [];
  const takes: DraftTake[] = [];
  for (const [i, row] of rows.entries()) {
    told((OPENING * i) / rows.length);
    if (row.frames * row.skeleton.joints.length > LONG_SAMPLES) {
      doubts.push({ take: row.name, what: 'It is so long that it is left out: cut what is good of it into a take of its own.' });
      continue;
    }
    for (const { code, message } of row.passport.warnings)
      if (code === 'units' || code.startsWith('doubt-') || code.startsWith('free-fall')) doubts.push({ take: row.name, what: message });
    takes.push({ id: row.id, name: row.name, motion: (await openMotion(database, row.id)).motion });
  }
  const taken = [...(await listClips(database, project)), ...(await listJoins(database, project)), ...sets].map((own) => own.name);
  const drafting = draftProject(takes, cast, {
    name,
    character,
    slots: model?.slots ?? slotList(slots),
    ...(model && { contract: model.contract, bounds: model.bounds }),
    fits: (await listFits(database, project)).map(({ source, character: whose, settings }) => ({ source, character: whose, ...settings })),
    taken,
    doubts,
  });
  let step = drafting.next();
  while (!step.done) {
    told(OPENING + (1 - OPENING) * step.value.share);
    step = drafting.next();
  }
  const { clips, set, fields, missing, weather } = step.value;
  if (clips.length === 0)
    throw new InputError('takes', 'Nothing in the takes fills a slot of the set: its shot list says what to capture.');
  return { ...withIds(clips, set, fields), missing: [...missing], weather };
}

/** Clips, fields and what names them by ids of their own instead of by their names. */
function withIds(clips: readonly ClipDocument[], set: DraftedSet['set'], fields: DraftedSet['fields']): Pick<Drafted, 'clips' | 'set'> {
  const ids = new Map([...clips, ...fields].map(({ name }) => [name, randomUUID()]));
  const idOf = (name: string): string => ids.get(name) ?? name;
  const { home, pins, graph, draft } = set;
  return {
    clips: clips.map((clip) => ({ ...clip, id: idOf(clip.name) })),
    set: setDocumentSchema.parse({
      ...set,
      id: randomUUID(),
      ...(home && { home: { ...home, clip: idOf(home.clip) } }),
      pins: Object.fromEntries(Object.entries(pins).map(([slot, clip]) => [slot, idOf(clip)])),
      fields: fields.map((field) => ({ ...field, id: idOf(field.name), clips: field.clips.map(idOf) })),
      ...(graph && {
        graph: {
          ...graph,
          states: graph.states.map(({ plays, ...state }) => ({
            ...state,
            plays: plays && ('clip' in plays ? { ...plays, clip: idOf(plays.clip) } : { ...plays, field: idOf(plays.field) }),
          })),
        },
      }),
      ...(draft && { draft: draftCalled(draft, idOf, (take) => take) }),
    }),
  };
}
