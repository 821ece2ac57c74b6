import { createHash } from 'node:crypto';
import {
  canonical,
  draftCalled,
  projectSchema,
  type ContentOf,
  type Project,
  type ProjectInput,
  type ShipOptions,
  type ShipOptionsInput,
} from '@lantern/motion';
import { asc, eq } from 'drizzle-orm';
import type { ZodType } from 'zod';
import { savedClipSchema } from '@/http/clip';
import { savedJoinSchema, type JoinRow } from '@/http/join';
import { savedSetSchema, type SetRow } from '@/http/set';
import { listFits } from '../characters';
import { listClips } from '../clips';
import type { Database } from '../database';
import { listJoins } from '../joins';
import { findProject } from '../projects';
import { characters, takes } from '../schema';
import { listSets } from '../sets';

/** A project as a file would have it, with where its takes and characters lie here. */
export interface ShipDocument {
  readonly project: ProjectInput;
  /** By what the project calls a take: its row, and what it contains. */
  readonly takes: Readonly<Record<string, { readonly row: string; readonly content: string; readonly file: string }>>;
  /** By what the project calls a character: the content of its file. */
  readonly characters: Readonly<Record<string, string>>;
  /** What clips and joins are called in it, by their ids. */
  readonly names: Readonly<Record<string, string>>;
}

/** A document with its project parsed, and what it goes by. */
export interface OpenDocument extends ShipDocument {
  readonly hash: string;
  readonly parsed: Project;
}

/** A name without what file systems refuse, and that no other has. */
class FreeNames {
  private readonly taken = new Set<string>();
  give(wanted: string, fallback: string): string {
    const stem = wanted.replace(/[/\\:*?"<>|\u0000-\u001f]/g, '-').trim() || fallback;
    for (let n = 1; ; n++) {
      const name = n === 1 ? stem : `${stem}-${n}`;
      if (this.taken.has(name.toLowerCase())) continue;
      this.taken.add(name.toLowerCase());
      return name;
    }
  }
}

/**
 * A project of the database as a project file has it: takes, clips and all else by their names instead of their ids. What refers to something that is gone is
 * left out.
 *
 * @param ship how it is to ship; clips and joins that stay behind are told by their ids
 * @returns null when there is no such project
 */
export async function projectDocument(
  database: Database,
  id: string,
  ship: ShipOptions | ShipOptionsInput = {},
): Promise<ShipDocument | null> {
  const about = await findProject(database, id);
  if (!about) return null;
  // A row that is not as it should be is left out, as it is everywhere: the others go on.
  const clips = whole(await listClips(database, id), savedClipSchema);
  const joins = whole(await listJoins(database, id), savedJoinSchema);
  const sets = whole(await listSets(database, id), savedSetSchema);
  const fits = await listFits(database, id);
  const used = new Set([
    ...clips.map(({ source }) => source.take),
    ...joins.flatMap(({ pieces }) => pieces.flatMap((piece) => ('take' in piece ? piece.take : []))),
  ]);
  const all = await database.select().from(takes).where(eq(takes.project, id)).orderBy(asc(takes.created), asc(takes.name), asc(takes.id));
  const cast = await database
    .select()
    .from(characters)
    .where(eq(characters.project, id))
    .orderBy(asc(characters.created), asc(characters.id));
  const [ofTakes, ofClips, ofFiles, ofSets, ofFields] = Array.from({ length: 5 }, () => new FreeNames());
  const names = new Map<string, string>();
  for (const set of sets) {
    names.set(set.id, ofSets.give(set.name, 'set'));
    for (const field of set.fields) names.set(field.id, ofFields.give(field.name, 'field'));
  }
  // Clips can be cut from joins as from takes: they share their names.
  for (const join of joins) names.set(join.id, ofTakes.give(ofClips.give(join.name, 'join'), 'join'));
  const listed = all.filter(({ id: row, removed }) => removed === null || used.has(row));
  for (const take of listed) names.set(take.id, ofTakes.give(take.name, 'take'));
  for (const clip of clips) names.set(clip.id, ofClips.give(clip.name, 'clip'));
  const nameOf = (own: string): string | null => names.get(own) ?? null;
  const rows = listed.map((take) => {
    const name = names.get(take.id) ?? take.name;
    const file = ofFiles.give(take.file || `${name}.bvh`, 'take.bvh');
    const { part } = take.passport;
    return { take, name, file: `takes/${file}`, part };
  });
  const alive = new Set(listed.map(({ id: row }) => row));
  const joined = joins.flatMap((join) => joinIn(join, nameOf));
  const isThere = new Set([...alive, ...joins.filter((_, i) => joined[i] !== undefined).map((join) => join.id)]);
  const project: ProjectInput = {
    oldLantern: 1,
    fps: about.fps,
    takes: rows.map(({ take, name, file, part }) => ({
      id: name,
      file,
      ...(part !== undefined && { animation: part }),
      ...take.overrides,
      ...(take.markers.length > 0 && { markers: take.markers }),
    })),
    characters: cast.map(({ id: own }) => ({ id: own, file: `characters/${own}.glb` })),
    fits: fits.map(({ source, character, settings }) => ({ source, character, ...settings })),
    clips: clips
      .filter(({ source }) => isThere.has(source.take))
      .map(({ id: own, source, steps, gait, direction }) => ({
        name: names.get(own) ?? own,
        ...source,
        take: names.get(source.take) ?? source.take,
        steps,
        gait,
        direction,
      })),
    joins: joined,
    sets: sets.map((set) => setIn(set, nameOf)),
    fields: sets.flatMap((set) =>
      set.fields.map(({ id: own, ...field }) => ({
        ...field,
        name: names.get(own) ?? field.name,
        clips: field.clips.flatMap((clip) => nameOf(clip) ?? []),
      })),
    ),
    ship: shipIn(ship, nameOf),
  };
  return {
    project,
    takes: Object.fromEntries(
      rows.map(({ take, name, file }) => [name, { row: take.id, file, content: JSON.stringify([take.hash || take.id, take.overrides]) }]),
    ),
    characters: Object.fromEntries(cast.map(({ id: own, hash }) => [own, hash])),
    names: Object.fromEntries(names),
  };
}

const whole = <Row>(rows: readonly Row[], schema: ZodType): Row[] => rows.filter((row) => schema.safeParse(row).success);

/** How it ships, clips by their names. */
function shipIn(ship: ShipOptions | ShipOptionsInput, nameOf: (id: string) => string | null): ShipOptionsInput {
  const { without = [], differences } = ship;
  const base = differences && nameOf(differences.clip);
  const of = differences?.of.flatMap((own) => nameOf(own) ?? []) ?? [];
  return {
    ...ship,
    without: without.flatMap((own) => nameOf(own) ?? []),
    differences: differences && base && of.length > 0 ? { ...differences, clip: base, of } : undefined,
  };
}

/** A join with its pieces by name; none where it has none that is there. */
function joinIn({ name: _name, id, pieces, start }: JoinRow, nameOf: (id: string) => string | null): NonNullable<ProjectInput['joins']> {
  const named = pieces.flatMap((piece) => {
    const name = nameOf('clip' in piece ? piece.clip : piece.take);
    if (name === null) return [];
    return ['clip' in piece ? { ...piece, clip: name } : { ...piece, take: name }];
  });
  return named.length > 0 ? [{ name: nameOf(id) ?? id, pieces: named, start }] : [];
}

function setIn(
  { id, project: _project, revision: _revision, updated: _updated, fields: _fields, ...set }: SetRow,
  nameOf: (id: string) => string | null,
) {
  const home = set.home && nameOf(set.home.clip);
  return {
    ...set,
    name: nameOf(id) ?? set.name,
    home: set.home && home ? { ...set.home, clip: home } : undefined,
    pins: Object.fromEntries(
      Object.entries(set.pins).flatMap(([slot, clip]) => {
        const name = nameOf(clip);
        return name ? [[slot, name]] : [];
      }),
    ),
    without: set.without.flatMap((clip) => nameOf(clip) ?? []),
    draft: set.draft && draftCalled(set.draft, nameOf, nameOf),
    shots: set.shots.map(({ by, ...shot }) => {
      const take = by && nameOf(by.take);
      return by && take ? { ...shot, by: { ...by, take } } : shot;
    }),
    graph: set.graph && {
      ...set.graph,
      states: set.graph.states.map((state) => ({
        ...state,
        plays:
          state.plays === null
            ? null
            : 'clip' in state.plays
              ? { ...state.plays, clip: nameOf(state.plays.clip) ?? state.plays.clip }
              : { ...state.plays, field: nameOf(state.plays.field) ?? state.plays.field },
      })),
    },
  };
}

/** A document opened: its project checked, and what it goes by. A clip that refers to what is not there fails by itself, when it is made. */
export function openDocument(document: ShipDocument): OpenDocument {
  // What a database gives back has its keys in another order: told by what is in it.
  const text = canonical(document);
  return { ...document, hash: createHash('sha256').update(text).digest('hex'), parsed: projectSchema.parse(document.project) };
}

/** What takes and characters contain, for what clips are made from. */
export const contentIn = ({ takes: all, characters: cast }: ShipDocument): ContentOf => ({
  take: (id) => all[id]?.content ?? id,
  character: (id) => cast[id] ?? id,
});
