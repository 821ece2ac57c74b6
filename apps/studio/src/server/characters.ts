import { createHash } from 'node:crypto';
import { unpackGlb } from '@lantern/unpack';
import { bareName, characterIn, fitOverrides, InputError, readCharacter, type FitOverrides } from '@lantern/motion';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Database } from './database';
import type { CharacterInfo } from '@/http/project';
import { merged } from './merge';
import { characterPieces, readPieces, writePieces } from './pieces';
import { characters, clips, fits } from './schema';

export type CharacterRow = Omit<typeof characters.$inferSelect, 'removed'>;

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
  return database.transaction(async (transaction) => {
    // Names are given one after the other: two files at the same moment would otherwise get the same.
    await transaction.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`characters ${project}`}, 0))`);
    const all = await transaction.select(columns).from(characters).where(eq(characters.project, project));
    const same = all.find((row) => row.hash === hash);
    const [stored] = same
      ? await transaction
          .update(characters)
          .set({ removed: null })
          .where(and(eq(characters.project, project), eq(characters.id, same.id)))
          .returning(columns)
      : await transaction
          .insert(characters)
          .values({ project, id: freeId(name, all), name, file, hash, facts })
          .returning(columns);
    if (!same) await writePieces(transaction, characterPieces(project, hash), plain);
    return stored;
  });
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
  const known = await knownCharacter(database, project, id);
  const bytes = known && (await readPieces(database, characterPieces(project, known.hash)));
  return known && bytes ? { ...known, bytes } : null;
}

async function knownCharacter(database: Database, project: string, id: string): Promise<{ hash: string; name: string } | null> {
  const [row] = await database
    .select({ hash: characters.hash, name: characters.name })
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

/** What a save of a fit sends; `before` is what it was made on. */
export const fitInput = z.object({
  source: z.string().min(1).max(64),
  character: z.string().min(1).max(200),
  settings: fitOverrides,
  before: fitOverrides.optional(),
});

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

export type FitSaved =
  | { readonly outcome: 'saved'; readonly fit: FitRow }
  /** Somebody else changed the same meanwhile; `fit` is what stands. */
  | { readonly outcome: 'conflict'; readonly fields: readonly string[]; readonly fit: FitRow };

/**
 * Saves what is settled for a suit and a character, setting by setting merged with what others changed meanwhile.
 *
 * @throws InputError when there is no such character
 */
export async function saveFit(
  database: Database,
  project: string,
  { source, character, settings, before }: z.infer<typeof fitInput>,
): Promise<FitSaved> {
  const known = await knownCharacter(database, project, character);
  if (!known) throw new InputError('missing', 'There is no such character.');
  return database.transaction(async (transaction): Promise<FitSaved> => {
    // A row that is not there yet cannot be locked: whoever saves for this pair waits here.
    await transaction.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`fit ${project} ${source} ${character}`}, 0))`);
    const which = and(eq(fits.project, project), eq(fits.source, source), eq(fits.character, character));
    const [held] = await transaction.select({ settings: fits.settings }).from(fits).where(which);
    const now: FitOverrides = held?.settings ?? {};
    // What was there before and is not any more was taken out.
    const gone = Object.fromEntries(Object.keys(before ?? now).map((key) => [key, undefined]));
    const result = merged<FitOverrides>(now, before && { ...gone, ...before }, { ...gone, ...settings });
    if (result.outcome === 'conflict') return { outcome: 'conflict', fields: result.fields, fit: { source, character, settings: now } };
    const next = fitOverrides.parse(JSON.parse(JSON.stringify({ ...(before ? now : {}), ...result.value })));
    await transaction
      .insert(fits)
      .values({ project, source, character, settings: next })
      .onConflictDoUpdate({ target: [fits.project, fits.source, fits.character], set: { settings: next, updated: new Date() } });
    return { outcome: 'saved', fit: { source, character, settings: next } };
  });
}
