import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join, relative, resolve } from 'node:path';
import {
  bareName,
  describeTake,
  draftDelivered,
  draftSchema,
  FIGURE_NAMES,
  figureChanges,
  groundwork,
  InputError,
  matchTakes,
  parseProject,
  readTake,
  stepsAtRate,
  takeOverridesSchema,
  type PlacedSpan,
  type Project,
  type Report,
  type TakeMatch,
} from '@lantern/motion';
import { inFile, readInput } from './files';
import { shipTo } from './make';
import { print } from './print';

interface WatchOptions {
  readonly project: string;
  readonly out: string;
  readonly once?: boolean;
  readonly json?: boolean;
  readonly allowOutside?: boolean;
}

/** What a file that appeared has done to the project. */
export interface Arrival {
  readonly file: string;
  /** `new`: it came in as a take; `redelivered`: everything made from it was found in it again; `refused`: it was left alone. */
  readonly outcome: 'new' | 'redelivered' | 'refused';
  readonly take: string;
  /** Clips that are cut from it, and where they lie now. */
  readonly clips: readonly {
    readonly name: string;
    readonly outcome: 'moved' | 'changed' | 'lost';
    readonly from: number;
    readonly to: number;
  }[];
  readonly says: string;
}

/** A look at the folder that found something. */
export interface Look {
  readonly arrivals: readonly Arrival[];
  /** Null where nothing had to be shipped. */
  readonly report: Report | null;
  /** Clips whose figures are others now, by more than what is not seen. */
  readonly changed: readonly { readonly name: string; readonly figure: string; readonly before: number; readonly after: number }[];
}

/** Kinds of files that are takes. */
const TAKES = /\.(bvh|glb|gltf|amc)$/i;
/** Milliseconds between looks; a file that was written to since the last one is still being written. */
const LOOK = 1000;

/** Brings in what appears in a folder, and ships again what that changes; until it is ended, or once. */
export async function watch(folder: string, options: WatchOptions): Promise<void> {
  const seen = new Map<string, number>();
  for (;;) {
    const found = await look(folder, options, seen);
    if (found.arrivals.length > 0 || options.once) print(options.json ?? false, found, () => inWords(found));
    if (options.once) return;
    await new Promise((next) => setTimeout(next, LOOK));
  }
}

const inWords = ({ arrivals, report, changed }: Look): string[] => [
  ...(arrivals.length === 0 ? ['nothing new'] : arrivals.map(({ file, says }) => `${file}: ${says}`)),
  ...changed.map(({ name, figure, before, after }) => `${name}: ${figure} ${before.toFixed(2)} → ${after.toFixed(2)}`),
  ...(report?.written ?? []).filter(({ state }) => state !== 'same').map(({ path, state, why }) => `${state} ${path} (${why.join('; ')})`),
];

/**
 * Looks at a folder once. What is there of the project's takes, under the name of their files, but with another content, takes their place: cuts, steps and
 * markers are found in it again. What the project does not know becomes a take of it.
 *
 * @param seen when each file was written to last, as the last look found it; one that is still being written to is left for the next
 */
export async function look(
  folder: string,
  { project: file, out, allowOutside, once }: WatchOptions,
  seen = new Map<string, number>(),
): Promise<Look> {
  const text = new TextDecoder().decode(await readInput(file));
  const project = inFile(file, () => parseProject(text));
  const raw = JSON.parse(text.replace(/^\ufeff/, '')) as RawProject;
  const home = dirname(resolve(file));
  const before = await reportIn(out);
  const arrivals: Arrival[] = [];
  for (const name of (await readdir(folder)).filter((own) => TAKES.test(own)).sort()) {
    const path = resolve(folder, name);
    const { mtimeMs } = await stat(path);
    const isStill = once || seen.get(path) === mtimeMs;
    seen.set(path, mtimeMs);
    if (!isStill) continue;
    const take = project.takes.find((own) => resolve(home, own.file) === path) ?? project.takes.find((own) => basename(own.file) === name);
    const bytes = await readInput(path);
    const held = take && (await heldCopy(home, take.id));
    if (take && held && hashOf(held) === hashOf(bytes)) continue;
    const place = relative(home, path);
    // What is there at the first look is what the project was made with.
    const arrival = !take ? newTake(raw, project, place, bytes) : held ? redelivered(raw, project, take, place, held, bytes) : null;
    if (arrival) arrivals.push(arrival);
    if (arrival?.outcome !== 'refused') await holdCopy(home, take?.id ?? arrival?.take ?? name, name, bytes);
  }
  const hasChanged = arrivals.some(({ outcome }) => outcome !== 'refused');
  if (hasChanged) await replace(file, `${JSON.stringify(raw, null, 1)}\n`);
  if (!hasChanged && before) return { arrivals, report: null, changed: [] };
  const { report } = await shipTo(file, { out, allowOutside });
  return { arrivals, report, changed: before ? changedFigures(before, report) : [] };
}

/** A project file as it is written, with only what is not touched here unknown. */
interface RawProject {
  takes: Record<string, unknown>[];
  clips?: Record<string, unknown>[];
  sets?: Record<string, unknown>[];
}

function newTake(raw: RawProject, project: Project, file: string, bytes: Uint8Array): Arrival {
  const take = freeId(bareName(file), project);
  try {
    const { motion } = describeTake(readTake(bytes, file));
    raw.takes.push({ id: take, file });
    const seconds = (motion.frames / motion.fps).toFixed(1);
    return { file, outcome: 'new', take, clips: [], says: `came in as the take ${take}, ${seconds} s` };
  } catch (error) {
    return refused(file, take, error);
  }
}

function redelivered(
  raw: RawProject,
  project: Project,
  take: Project['takes'][number],
  file: string,
  old: Uint8Array,
  bytes: Uint8Array,
): Arrival {
  try {
    const reading = takeOverridesSchema.parse(take);
    const read = (own: Uint8Array, name: string) => groundwork(describeTake(readTake(own, name, {}, take.animation), reading).motion);
    const [then, now] = [read(old, take.file), read(bytes, file)];
    if (!then || !now) throw new InputError('no-legs', 'Takes are matched by the motion of a person; one of these has no two legs.');
    const match = matchTakes(then, now);
    const clips = project.clips.filter(({ source }) => source.take === take.id).map((clip) => placed(raw, clip, match));
    moveRunnersUp(raw, take.id, match);
    const own = raw.takes.find(({ id }) => id === take.id);
    if (own) Object.assign(own, { file, ...(take.markers && { markers: markersIn(take.markers, then.motion.frames, match) }) });
    const lost = clips.filter(({ outcome }) => outcome === 'lost');
    const found = `${clips.length - lost.length} of ${clips.length} clips found again`;
    const says = `a new delivery of ${take.id}, ${match.medianCm.toFixed(1)} cm off in the middle; ${found}${lost.length > 0 ? `, not ${lost.map(({ name }) => name).join(', ')}` : ''}`;
    return { file, outcome: 'redelivered', take: take.id, clips, says };
  } catch (error) {
    return refused(file, take.id, error);
  }
}

function refused(file: string, take: string, error: unknown): Arrival {
  if (!(error instanceof InputError)) throw error;
  return { file, outcome: 'refused', take, clips: [], says: `left alone: ${error.message}` };
}

/** A clip's cut, and what its steps say in frames and places, in the new delivery; written into the project, unless it is lost. */
function placed(raw: RawProject, { name, source, steps }: Project['clips'][number], match: TakeMatch): Arrival['clips'][number] {
  const span = spanIn(match.place(source.from, source.to));
  if (!span) return { name, outcome: 'lost', from: source.from, to: source.to };
  const rate = (span.to - span.from) / (source.to - source.from);
  const own = raw.clips?.find((clip) => clip.name === name);
  const cut = { from: span.from, to: span.to };
  if (own?.source && typeof own.source === 'object') own.source = { ...own.source, ...cut };
  else Object.assign(own ?? {}, cut);
  if (own) own.steps = stepsAtRate(steps, rate, match.floor);
  return { name, outcome: 'moved', ...cut };
}

/** In place: the runners-up of drafted sets that are cut from a take, where they are in its new delivery; those that are not there any more are gone. */
function moveRunnersUp(raw: RawProject, take: string, { place, floor }: TakeMatch): void {
  for (const set of raw.sets ?? []) {
    const draft = draftSchema.safeParse(set.draft).data;
    if (!draft) continue;
    set.draft = draftDelivered(draft, take, take, (from, to) => spanIn(place(from, to)), floor);
  }
}

/** A stretch where it was found; null where it was not, or too little of it. */
const spanIn = (span: PlacedSpan): PlacedSpan | null => (span.outcome === 'lost' || span.to - span.from < 2 ? null : span);

/** Markers where the frames around them are now; those that are not there any more are gone. */
function markersIn(markers: NonNullable<Project['takes'][number]['markers']>, frames: number, { place }: TakeMatch) {
  const reach = 30;
  return markers.flatMap(({ frame, name }) => {
    const [from, to] = [Math.max(0, frame - reach), Math.min(frames - 1, frame + reach)];
    const span = place(from, to);
    if (span.outcome === 'lost') return [];
    return [{ frame: Math.round(span.from + ((frame - from) / (to - from)) * (span.to - span.from)), name }];
  });
}

function freeId(stem: string, { takes, joins }: Project): string {
  const taken = new Set([...takes.map(({ id }) => id), ...joins.map(({ name }) => name)]);
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!taken.has(id)) return id;
  }
}

const changedFigures = (before: Report, after: Report): Look['changed'] =>
  after.clips.flatMap((clip) => {
    const old = before.clips.find(({ name }) => name === clip.name);
    return old ? figureChanges(old, clip).map((change) => ({ ...change, name: clip.name, figure: FIGURE_NAMES[change.figure] })) : [];
  });

const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Where copies of takes lie as the project was last made with them: a new delivery may be written over the old one. */
const copies = (home: string): string => join(home, '.deliveries');

async function heldCopy(home: string, take: string): Promise<Uint8Array | null> {
  const names = await readdir(copies(home)).catch(() => []);
  const name = names.find((own) => own.startsWith(`${encodeURIComponent(take)}=`));
  return name === undefined ? null : readFile(join(copies(home), name));
}

async function holdCopy(home: string, take: string, name: string, bytes: Uint8Array): Promise<void> {
  await mkdir(copies(home), { recursive: true });
  await replace(join(copies(home), `${encodeURIComponent(take)}=${/\.\w+$/.exec(name)?.[0] ?? ''}`), bytes);
}

/** Writes a file whole or not at all. */
async function replace(file: string, content: string | Uint8Array): Promise<void> {
  await writeFile(`${file}.new`, content);
  await rename(`${file}.new`, file);
}

async function reportIn(out: string): Promise<Report | null> {
  try {
    return JSON.parse(await readFile(join(out, 'report.json'), 'utf8')) as Report;
  } catch {
    return null;
  }
}
