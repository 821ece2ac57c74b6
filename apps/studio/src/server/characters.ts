import { createHash } from 'node:crypto';
import { unpackGlb } from '@lantern/unpack';
import { bareName, characterIn, fitOverrides, InputError, readCharacter, type FitOverrides } from '@lantern/motion';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import type { Database } from './database';
import type { CharacterInfo } from '@/http/project';
import { characters, clips, fits } from './schema';

export type CharacterRow = Omit<typeof characters.$inferSelect, 'bytes' | 'removed'>;

const columns = {
  project: characters.project,
  id: characters.id,
  name: characters.name,
  file: characters.file,
  hash: characters.hash,
  facts: characters.facts,
  created: characters.created,
};

export async function listCharacters(database: Database, project: string): Promise<CharacterRow[]> {
  return database
    .select(columns)
    .from(characters)
    .where(and(eq(characters.project, project), isNull(characters.removed)))
    .orderBy(asc(characters.created), asc(characters.id));
}

/**
 * Reads a character's file and stores it; the same file again is the same character.
 *
 * @throws InputError that says what is wrong with it, and nothing is stored
 */
export async function importCharacter(database: Database, project: string, file: string, bytes: Uint8Array): Promise<CharacterRow> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  const name = bareName(file);
  const all = await database.select(columns).from(characters).where(eq(characters.project, project));
  const same = all.find((row) => row.hash === hash);
  if (same) {
    const [back] = await database
      .update(characters)
      .set({ removed: null })
      .where(and(eq(characters.project, project), eq(characters.id, same.id)))
      .returning(columns);
    return back;
  }
  // What is packed is stored unpacked: the browser reads it as it is, and it ships so.
  const plain = await unpackGlb(bytes);
  const character = readCharacter(plain, name);
  const found = Object.values(character.parts.parts);
  const facts: CharacterInfo['facts'] = {
    statureM: character.statureM,
    joints: character.skeleton.joints.length + character.outside.length,
    confidence: Math.min(1, ...found.map(({ confidence }) => confidence)),
    warnings: character.warnings.map(({ message }) => message),
  };
  const [stored] = await database
    .insert(characters)
    .values({ project, id: freeId(name, all), name, file, hash, facts, bytes: Buffer.from(plain) })
    .returning(columns);
  return stored;
}

function freeId(name: string, taken: readonly { readonly id: string }[]): string {
  const stem =
    name
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '') || 'character';
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!taken.some((row) => row.id === id)) return id;
  }
}

/** The file of a character, and its hash; also of one that was removed, which old clips may still name. */
export async function characterFile(
  database: Database,
  project: string,
  id: string,
): Promise<{ bytes: Buffer; hash: string; name: string } | null> {
  const [row] = await database
    .select({ bytes: characters.bytes, hash: characters.hash, name: characters.name })
    .from(characters)
    .where(and(eq(characters.project, project), eq(characters.id, id)));
  return row ?? null;
}

/** Takes a character out of the list, unless clips are fitted to it. */
export async function removeCharacter(database: Database, project: string, id: string): Promise<'removed' | 'has-clips' | 'missing'> {
  const held = await database
    .select({ steps: clips.steps })
    .from(clips)
    .where(and(eq(clips.project, project), isNull(clips.removed)));
  if (held.some(({ steps }) => characterIn(steps) === id)) return 'has-clips';
  const done = await database
    .update(characters)
    .set({ removed: new Date() })
    .where(and(eq(characters.project, project), eq(characters.id, id)))
    .returning({ id: characters.id });
  return done.length > 0 ? 'removed' : 'missing';
}

/** What a save of a fit sends. */
export const fitInput = z.object({ source: z.string().min(1).max(64), character: z.string().min(1).max(200), settings: fitOverrides });

export interface FitRow {
  readonly source: string;
  readonly character: string;
  readonly settings: FitOverrides;
}

export async function listFits(database: Database, project: string): Promise<FitRow[]> {
  return database
    .select({ source: fits.source, character: fits.character, settings: fits.settings })
    .from(fits)
    .where(eq(fits.project, project));
}

/** Saves what is settled for a suit and a character. @throws InputError when there is no such character */
export async function saveFit(
  database: Database,
  project: string,
  { source, character, settings }: z.infer<typeof fitInput>,
): Promise<FitRow> {
  const known = await characterFile(database, project, character);
  if (!known) throw new InputError('missing', 'There is no such character.');
  const [row] = await database
    .insert(fits)
    .values({ project, source, character, settings })
    .onConflictDoUpdate({ target: [fits.project, fits.source, fits.character], set: { settings, updated: new Date() } })
    .returning({ source: fits.source, character: fits.character, settings: fits.settings });
  return row;
}
