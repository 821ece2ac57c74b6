import { writeBvh } from '@lantern/motion';
import { eq } from 'drizzle-orm';
import { characterPieces, hasPieces, readPieces, takePieces } from '../pieces';
import type { Database } from '../database';
import { findProject } from '../projects';
import { takes } from '../schema';
import { projectDocument, type ShipDocument } from '../ship/document';
import { lastShipment } from '../ship/shipments';
import { piecesOf, type ZipEntry } from '../ship/zip-stream';
import { readStored } from '../takes';

/** The project file of an archive: what `make` reads, and what only the application knows of it. */
export const PROJECT_FILE = 'project.json';

const one = async function* (bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
};

/**
 * A whole project, file by file: its project file first, then its takes as they came, and its characters.
 *
 * @returns null when there is no such project
 */
export async function projectArchive(database: Database, id: string): Promise<AsyncGenerator<ZipEntry> | null> {
  const about = await findProject(database, id);
  const last = about && (await lastShipment(database, id));
  const document =
    about && (await projectDocument(database, id, last?.report.ship ? { ...last.report.ship, without: [], differences: undefined } : {}));
  if (!about || !document) return null;
  const rows = await database.select().from(takes).where(eq(takes.project, id));
  const rowOf = new Map(rows.map((row) => [row.id, row]));
  const files = await filesOf(database, document, rowOf);
  const { name, character, namePattern, fitTo, settlesFloor } = about;
  const project = {
    ...document.project,
    name,
    character,
    namePattern,
    fitTo,
    settlesFloor,
    takes: document.project.takes.map((take) => {
      const row = rowOf.get(document.takes[take.id]?.row ?? '');
      const file = files.get(take.id);
      return { ...take, ...(file && { file: file.path, animation: file.part }), ...(row && aboutTake(row)) };
    }),
  };
  return entries(database, id, JSON.stringify(project, null, 1), document, files);
}

type TakeStored = typeof takes.$inferSelect;

/** What stands beside a take that is not how it is read. */
const aboutTake = ({ tags, notes, star, props }: TakeStored) => ({
  ...(tags.length > 0 && { tags }),
  ...(notes && { notes }),
  ...(star && { star }),
  ...(props.length > 0 && { props }),
});

interface TakeFile {
  readonly path: string;
  /** Which animation of it. */
  readonly part: string | undefined;
  /** The file as it came; null: it is written from what is stored. */
  readonly hash: string | null;
  readonly row: string;
}

/** The file of every take: several takes of one file share it. */
async function filesOf(
  database: Database,
  { takes: all }: ShipDocument,
  rowOf: ReadonlyMap<string, TakeStored>,
): Promise<Map<string, TakeFile>> {
  const out = new Map<string, TakeFile>();
  const paths = new Map<string, string>();
  for (const [id, { row: key, file }] of Object.entries(all)) {
    const row = rowOf.get(key);
    if (!row) continue;
    const hash = row.hash.split(' ')[0];
    // A motion whose skeleton lies in a file of its own is nothing without it.
    const isKept = hash !== '' && row.passport.format !== 'asf-amc' && (await hasPieces(database, takePieces(hash)));
    if (isKept) {
      const path = paths.get(hash) ?? file;
      paths.set(hash, path);
      out.set(id, { path, part: row.passport.part, hash, row: key });
    } else out.set(id, { path: file.replace(/(\.\w+)?$/, '.bvh'), part: undefined, hash: null, row: key });
  }
  return out;
}

async function* entries(
  database: Database,
  project: string,
  text: string,
  { characters }: ShipDocument,
  files: ReadonlyMap<string, TakeFile>,
): AsyncGenerator<ZipEntry> {
  const encode = new TextEncoder();
  yield { path: PROJECT_FILE, parts: one(encode.encode(`${text}\n`)) };
  const written = new Set<string>();
  for (const { path, hash, row } of files.values()) {
    if (written.has(path)) continue;
    written.add(path);
    if (hash !== null) yield { path, parts: piecesOf(database, takePieces(hash)) };
    else yield { path, parts: one(encode.encode(await asBvh(database, row))) };
  }
  for (const [id, hash] of Object.entries(characters)) {
    const bytes = await readPieces(database, characterPieces(project, hash));
    if (bytes) yield { path: `characters/${id}.glb`, parts: one(bytes) };
  }
}

/** A take of which no file is kept, as one: in its own units, with more digits than it has. */
async function asBvh(database: Database, id: string): Promise<string> {
  const [row] = await database.select().from(takes).where(eq(takes.id, id));
  const { motion } = await readStored(database, row);
  return writeBvh(motion, { unitsPerMetre: 1, digits: 9 });
}
