import {
  clipBytes,
  InputError,
  projectInputs,
  projectSources,
  readCharacter,
  shipNamed,
  type Character,
  type NamedShipped,
  type PreparedTake,
  type ShippedClip,
  type Sources,
} from '@lantern/motion';
import { eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { ClipAbout, ClipFailure } from '@/http/shipment';
import { characterFile } from '../characters';
import type { Database } from '../database';
import { log } from '../log';
import { shipDocuments } from './tables';
import { openMotion } from '../takes';
import { toLog } from '../trouble';
import { contentIn, openDocument, type OpenDocument } from './document';
import { beatClip, finishClip, waysOf } from './made-clips';
import { sourcesNeeded } from './sources-needed';

/** Frames times joints of takes that a worker holds at a time. */
const MOST_HELD = 12_000_000;

const documents = new LRUCache<string, OpenDocument>({ max: 6 });
const takes = new LRUCache<string, { readonly motion: PreparedTake['motion'] }>({
  maxSize: MOST_HELD,
  sizeCalculation: ({ motion }) => Math.max(1, Math.min(MOST_HELD, motion.frames * motion.skeleton.joints.length)),
});
const characters = new LRUCache<string, Character>({ max: 20 });
/** What was opened for a document; its runners remember what they ran. */
let open: { readonly hash: string; readonly needed: string; readonly sources: Sources } | null = null;

/** A document by what it goes by. @throws InputError `missing` when it is gone */
export async function readDocument(database: Database, hash: string): Promise<OpenDocument> {
  const known = documents.get(hash);
  if (known) return known;
  const [row] = await database.select({ document: shipDocuments.document }).from(shipDocuments).where(eq(shipDocuments.hash, hash));
  if (!row) throw new InputError('missing', 'What was to be shipped is not here any more.');
  const document = { ...openDocument(row.document), hash };
  documents.set(hash, document);
  return document;
}

/** The characters of a document that clips are on. */
export async function castOf(
  database: Database,
  project: string,
  { characters: all, parsed }: OpenDocument,
): Promise<Map<string, Character>> {
  const cast = new Map<string, Character>();
  const used = new Set(parsed.clips.flatMap(({ steps }) => steps.flatMap((step) => (step.kind === 'fit' ? step.character : []))));
  for (const id of used) {
    const hash = all[id];
    if (hash === undefined) continue;
    const known = characters.get(hash);
    const file = known ? null : await characterFile(database, project, id);
    const character = known ?? (file && readCharacter(file.bytes, id));
    if (!character) continue;
    characters.set(hash, character);
    cast.set(id, character);
  }
  return cast;
}

async function sourcesOf(database: Database, project: string, document: OpenDocument, name: string): Promise<Sources> {
  const wanted = sourcesNeeded(document.parsed, name);
  const needed = [...wanted].sort().join('\n');
  if (open?.hash === document.hash && open.needed === needed) return open.sources;
  const prepared = new Map<string, PreparedTake | InputError>();
  for (const id of wanted) {
    const own = document.takes[id];
    if (!own) continue;
    try {
      const held = takes.get(own.content) ?? { motion: (await openMotion(database, own.row)).motion };
      takes.set(own.content, held);
      prepared.set(id, { motion: held.motion, warnings: [] });
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      prepared.set(id, error);
    }
  }
  const sources = projectSources(document.parsed, (id) => prepared.get(id), await castOf(database, project, document));
  open = { hash: document.hash, needed, sources };
  return sources;
}

/** Makes a clip that was claimed, measures it and keeps it. Whatever happens is written down. */
export async function makeClaimed(
  database: Database,
  { key, name, document: hash }: { readonly key: string; readonly name: string; readonly document: string },
): Promise<void> {
  try {
    const document = await readDocument(database, hash);
    const project = await projectOf(database, hash);
    const sources = await sourcesOf(database, project, document, name);
    await beatClip(database, key);
    const { parsed } = document;
    const { shipped } = shipNamed(parsed, sources, projectInputs(parsed, contentIn(document)), name);
    await beatClip(database, key);
    await finishClip(database, key, { about: aboutOf(shipped), bytes: clipBytes(shipped, waysOf(parsed.ship)) });
  } catch (error) {
    if (!(error instanceof InputError)) log.error(toLog(error), `clip ${name} failed`);
    await finishClip(database, key, { failure: failureOf(error) });
  }
}

async function projectOf(database: Database, hash: string): Promise<string> {
  const [row] = await database.select({ project: shipDocuments.project }).from(shipDocuments).where(eq(shipDocuments.hash, hash));
  return row?.project ?? '';
}

function aboutOf({ clip: _clip, traits, ...about }: ShippedClip): ClipAbout {
  const { kind, gait, direction, speedMps } = traits ?? {};
  return { ...about, traits: traits && { kind: kind ?? null, gait: gait ?? null, direction: direction ?? null, speedMps: speedMps ?? 0 } };
}

const failureOf = (error: unknown): ClipFailure =>
  error instanceof InputError
    ? { code: error.code, message: error.message, place: error.place }
    : { code: 'ours', message: 'Something went wrong on our side.', place: {} };

export type { NamedShipped };
