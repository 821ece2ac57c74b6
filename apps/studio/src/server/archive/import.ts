import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { draftCalled, fileKind, InputError, parseProject, type JoinPiece, type Project } from '@lantern/motion';
import { and, eq } from 'drizzle-orm';
import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';
import { importCharacter } from '../characters';
import type { Database } from '../database';
import { freeProjectId } from '../projects';
import { characters, clips, fits, joins, projects, sets, takes } from '../schema';
import { changeTake, importFile } from '../takes';
import { PROJECT_FILE } from './export';

/** Files of an archive that are looked at; more would be a mistake. */
const MOST_FILES = 5000;
/** Bytes of one of its files, unpacked. */
const MOST_BYTES = 600_000_000;

/** The files of an archive one after the other, unpacked; those that are not wanted are passed over. */
export async function* archiveFiles(
  parts: AsyncIterable<Uint8Array>,
  isWanted: (path: string) => boolean,
): AsyncGenerator<{ readonly path: string; readonly bytes: Uint8Array }> {
  const ready: { path: string; bytes: Uint8Array }[] = [];
  const failures: unknown[] = [];
  let count = 0;
  const unzip = new Unzip((file) => {
    if (++count > MOST_FILES) failures.push(new InputError('archive', `The archive has more than ${MOST_FILES} files; no project does.`));
    if (file.name.endsWith('/') || !isWanted(file.name) || failures.length > 0) return;
    const held: Uint8Array[] = [];
    let size = 0;
    file.ondata = (error, data, isLast) => {
      if (error) failures.push(new InputError('archive', `“${file.name}” in the archive is damaged.`));
      else if ((size += data.length) > MOST_BYTES) failures.push(new InputError('archive', `“${file.name}” in the archive is too large.`));
      else held.push(data.slice());
      if (isLast && failures.length === 0) ready.push({ path: file.name, bytes: Buffer.concat(held) });
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  unzip.register(UnzipPassThrough);
  let seen = 0;
  for await (const part of parts) {
    try {
      unzip.push(part);
    } catch {
      throw new InputError('archive', 'This is no archive that can be unpacked.');
    }
    seen += part.length;
    if (failures.length > 0) throw failures[0];
    yield* ready.splice(0);
  }
  unzip.push(new Uint8Array(0), true);
  if (failures.length > 0) throw failures[0];
  yield* ready.splice(0);
  if (count === 0) throw new InputError('archive', seen === 0 ? 'The file is empty.' : 'This is no archive: a project comes as a zip.');
}

const partsOf = (path: string): AsyncIterable<Uint8Array> =>
  createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Uint8Array>;

/**
 * Brings in a project that left as an archive, as a project of its own.
 *
 * @param path of the archive, on disk
 * @param told hears how much of it is done, 0 to 1
 * @returns the id that it has here
 * @throws InputError that says what is wrong with it, and nothing of it stays
 */
export async function importArchive(database: Database, path: string, told: (share: number) => void = () => {}): Promise<string> {
  let text: string | null = null;
  for await (const { bytes } of archiveFiles(partsOf(path), (name) => name === PROJECT_FILE)) text = new TextDecoder().decode(bytes);
  if (text === null) throw new InputError('archive', `There is no ${PROJECT_FILE} in the archive.`);
  const project = parseProject(text);
  return database.transaction((transaction) => bringIn(transaction as unknown as Database, project, path, told));
}

async function bringIn(database: Database, project: Project, path: string, told: (share: number) => void): Promise<string> {
  const name = project.name ?? 'A project';
  const id = await freeProjectId(database, name);
  const { character = '', fps, namePattern, fitTo = '', settlesFloor } = project;
  await database.insert(projects).values({ id, name, character, fps, fitTo, ...(namePattern && { namePattern }), settlesFloor: false });
  const wanted = new Map<string, Project['takes']>();
  for (const take of project.takes) wanted.set(take.file, [...(wanted.get(take.file) ?? []), take]);
  const cast = new Map(project.characters.map((own) => [own.file, own.id]));
  const ids = new Map<string, string>();
  // Everything is listed in the order in which it was made: what comes from a file is as old as it stands in it.
  const clock = stepping();
  const ages = new Map(
    [...project.takes.map(({ id: own }) => own), ...project.characters.map(({ file }) => file)].map((own) => [own, clock()]),
  );
  let done = 0;
  for await (const { path: file, bytes } of archiveFiles(partsOf(path), (own) => wanted.has(own) || cast.has(own))) {
    const called = cast.get(file);
    if (called !== undefined) await bringCharacter(database, id, called, bytes, ages.get(file));
    for (const take of wanted.get(file) ?? []) await bringTake(database, id, take, bytes, ids, ages);
    told(++done / Math.max(1, wanted.size + cast.size));
  }
  const missing = project.takes.find((take) => !ids.has(take.id));
  if (missing) throw new InputError('archive', `The take “${missing.id}” is not in the archive: ${missing.file} is missing.`);
  for (const { source = '', character: whose, ...settings } of project.fits)
    await database.insert(fits).values({ project: id, source, character: whose, settings }).onConflictDoNothing();
  for (const own of [...project.joins, ...project.clips, ...project.fields]) if (!ids.has(own.name)) ids.set(own.name, randomUUID());
  await bringClips(database, id, project, ids, clock);
  await bringSets(database, id, project, ids, clock);
  await database
    .update(projects)
    .set({ settlesFloor: settlesFloor ?? true })
    .where(eq(projects.id, id));
  return id;
}

/** Instants one after the other. */
function stepping(): () => Date {
  let at = Date.now();
  return () => new Date(at++);
}

async function bringCharacter(
  database: Database,
  project: string,
  id: string,
  bytes: Uint8Array,
  created: Date | undefined,
): Promise<void> {
  const { id: given } = await importCharacter(database, project, `${id}.glb`, bytes);
  await database
    .update(characters)
    .set({ id, created })
    .where(and(eq(characters.project, project), eq(characters.id, given)));
}

/** One take of a file, with all that stands beside it. */
async function bringTake(
  database: Database,
  project: string,
  take: Project['takes'][number],
  bytes: Uint8Array,
  ids: Map<string, string>,
  ages: ReadonlyMap<string, Date>,
): Promise<void> {
  const { id, file, animation, skeleton: _skeleton, markers, tags, notes, star, props, ...overrides } = take;
  const name = file.replace(/^.*\//, '');
  if (fileKind(bytes, name) === 'asf') return;
  await importFile(database, project, name, bytes);
  const hash = createHash('sha256').update(bytes).digest('hex');
  const rows = await database
    .select({ id: takes.id, hash: takes.hash, passport: takes.passport })
    .from(takes)
    .where(eq(takes.project, project));
  const own = rows.find((row) => row.hash.split(' ')[0] === hash && (animation === undefined || row.passport.part === animation));
  if (!own) throw new InputError('archive', `The take “${id}” is not in its file ${file}.`);
  ids.set(id, own.id);
  await changeTake(database, own.id, { overrides });
  await database
    .update(takes)
    .set({
      name: id,
      created: ages.get(take.id),
      markers: markers ?? [],
      tags: tags ?? [],
      notes: notes ?? '',
      star: star ?? false,
      props: props ?? [],
    })
    .where(eq(takes.id, own.id));
}

async function bringClips(
  database: Database,
  project: string,
  { clips: all, joins: joined }: Project,
  ids: ReadonlyMap<string, string>,
  clock: () => Date,
): Promise<void> {
  const isJoin = new Set(joined.map(({ name }) => name));
  const idOf = (name: string) => ids.get(name) ?? name;
  for (const { name, pieces, start } of joined) {
    const own = pieces.map((piece): JoinPiece =>
      'clip' in piece ? { ...piece, clip: idOf(piece.clip) } : { ...piece, take: idOf(piece.take) },
    );
    await database.insert(joins).values({ id: idOf(name), project, name, document: { pieces: own, start }, created: clock() });
  }
  for (const { name, source, steps, gait, direction } of all) {
    const from = idOf(source.take);
    const cut = isJoin.has(source.take) ? { take: null, join: from } : { take: from, join: null };
    await database
      .insert(clips)
      .values({ id: idOf(name), project, ...cut, name, from: source.from, to: source.to, steps, gait, direction, created: clock() });
  }
}

async function bringSets(
  database: Database,
  project: string,
  { sets: all, fields }: Project,
  ids: ReadonlyMap<string, string>,
  clock: () => Date,
): Promise<void> {
  const idOf = (name: string) => ids.get(name) ?? name;
  for (const [i, set] of all.entries()) {
    const { name, home, pins, without, shots, graph, draft, ...rest } = set;
    const used = new Set(graph?.states.flatMap(({ plays }) => (plays && 'field' in plays ? plays.field : [])));
    // Fields belong to the set whose graph plays them; those that nobody plays, to the first.
    const own = fields.filter((field) => used.has(field.name) || (i === 0 && !all.some((other) => playsField(other, field.name))));
    const document = {
      ...rest,
      ...(draft && { draft: draftCalled(draft, idOf, idOf) }),
      ...(home && { home: { ...home, clip: idOf(home.clip) } }),
      pins: Object.fromEntries(Object.entries(pins).map(([slot, clip]) => [slot, idOf(clip)])),
      without: without.map(idOf),
      shots: shots.map((shot) => (shot.by ? { ...shot, by: { ...shot.by, take: idOf(shot.by.take) } } : shot)),
      fields: own.map((field) => ({ ...field, id: idOf(field.name), clips: field.clips.map(idOf) })),
      ...(graph && {
        graph: {
          ...graph,
          states: graph.states.map((state) => ({
            ...state,
            plays:
              state.plays === null
                ? null
                : 'clip' in state.plays
                  ? { ...state.plays, clip: idOf(state.plays.clip) }
                  : { ...state.plays, field: idOf(state.plays.field) },
          })),
        },
      }),
    };
    await database.insert(sets).values({ id: randomUUID(), project, name, document, created: clock() });
  }
}

const playsField = ({ graph }: Project['sets'][number], name: string): boolean =>
  graph?.states.some(({ plays }) => plays !== null && 'field' in plays && plays.field === name) ?? false;
