import { InputError } from '../error';
import type { Cast } from '../character/character';
import { joinFigures } from '../join/figures';
import type { Joined } from '../join/joined';
import type { Clip } from '../model/clip';
import { packShipment, type Validate } from '../ship/pack';
import type { NamedShipped } from '../ship/named-clip';
import type { ClipReport, FailedClip, JoinReport, MadeFile, Report } from '../ship/report';
import { measured, shippedClip, type ClipShipping } from '../ship/ship-clip';
import { projectInputs, type ContentOf } from './content';
import { readProject, type PreparedTake } from './read-project';
import type { Project } from './schema';
import { projectSources, type Sources } from './sources';

type Described = Pick<Project, 'fps' | 'clips' | 'ship' | 'fits'> & Partial<Pick<Project, 'joins' | 'sets' | 'fields' | 'takes'>>;

/** What is known and asked of making beside the project. */
export interface MakeOptions {
  /** Told before each clip: how many are done, of how many. */
  readonly progress?: (done: number, of: number, name: string) => void;
  /** What errors and warnings a validator of glTF has; without one nothing is promised of it. */
  readonly validate?: Validate;
  /** What a take's or a character's file contains, so that a report can say why a clip is another. */
  readonly contentOf?: ContentOf;
}

/**
 * Makes everything that a project describes. A take that cannot be read, or a clip that cannot be made, fails by itself: the others are made.
 *
 * @param readFile gives the bytes of a file named in the project
 * @throws InputError with the file, or the clip, in which something is wrong, when no clip at all can be made
 *
 * @example
 * const { files } = await make(parseProject(projectText), async () => bytes);
 * files.map(({ path }) => path); // ['wick.glb']
 */
export async function make(
  project: Project,
  readFile: (file: string) => Promise<Uint8Array>,
  options: MakeOptions = {},
): Promise<{ files: MadeFile[]; report: Report }> {
  const { takeOf, cast } = await readProject(project, readFile);
  return makeClips(project, takeOf, cast, options);
}

/**
 * The same from takes and characters that are already in memory.
 *
 * @example
 * const made = await makeClips(parseProject(projectText), () => ({ motion, warnings: [] }));
 * made.report.clips.map(({ name }) => name); // ['stroll']
 */
export async function makeClips(
  project: Described,
  takeOf: (id: string) => PreparedTake | InputError | undefined,
  cast: Cast = new Map(),
  { progress = () => {}, validate, contentOf }: MakeOptions = {},
): Promise<{ files: MadeFile[]; report: Report }> {
  const sources = projectSources(project, takeOf, cast);
  const inputsOf = projectInputs(project, contentOf);
  const names = shippedNames(project);
  const made: NamedShipped[] = [];
  const errors: InputError[] = [];
  const failed: FailedClip[] = [];
  for (const [index, name] of names.entries()) {
    progress(index, names.length, name);
    try {
      made.push(shipNamed(project, sources, inputsOf, name));
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      const take = project.clips.find((own) => own.name === name)?.source.take ?? name;
      const isTheTakes = error === sources.prepared(take);
      errors.push(isTheTakes || take === name ? error : new InputError(error.code, `Clip "${name}": ${error.message}`, error.place));
      failed.push({ name, take, code: error.code, message: error.message, place: error.place });
    }
  }
  if (made.length === 0 && errors.length > 0) throw errors[0];
  const files: MadeFile[] = [];
  const report = await packProject(project, made, failed, cast, (file) => void files.push(file), validate);
  const warnings = [...new Set(made.map((clip) => clip.take))].flatMap((id) => {
    const take = takeOf(id);
    return take && !(take instanceof InputError) ? take.warnings : [];
  });
  return { files, report: { ...report, files: files.map(({ path }) => path), warnings: [...warnings, ...report.warnings] } };
}

/** The clips and joins of a project that ship, in the order in which they do. */
export function shippedNames({ clips, joins, ship }: Pick<Project, 'clips' | 'ship'> & Partial<Pick<Project, 'joins'>>): string[] {
  const left = new Set(ship.without);
  return [...clips, ...(joins ?? [])].map(({ name }) => name).filter((name) => !left.has(name));
}

/** What of a shipment a clip of a character by itself depends on. */
function clipShipping({ fps, ship }: Pick<Project, 'fps' | 'ship'>, sources: Sources, character: string | null): ClipShipping {
  const { thin, lastKey, rootMotion } = ship;
  return { fps: ship.fps ?? fps, thin, lastKey, rootMotion, home: sources.home(character) };
}

/** One clip, or one join, of a project as it ships. @throws InputError when it cannot be made */
export function shipNamed(project: Described, sources: Sources, inputsOf: ReturnType<typeof projectInputs>, name: string): NamedShipped {
  const described = project.clips.find((own) => own.name === name);
  if (!described) {
    const joined = sources.joined(name);
    const character = sources.characterOfJoin(name);
    const marks = sources.marksOf(name).map(({ frame, name: mark }) => ({ at: frame / joined.motion.fps, name: mark }));
    const shipping = { ...clipShipping(project, sources, character), home: null };
    const shipped = measured(clipOfJoin(joined), shipping, { marks, meets: joinFigures(joined) });
    return { name, take: name, character, gait: '', direction: '', mirrorOf: null, shipped, inputs: inputsOf(name) };
  }
  const { source, gait, direction } = described;
  const character = sources.character(described);
  const { run, recipe } = sources.run(described);
  const shipped = shippedClip(run, recipe, clipShipping(project, sources, character), sources.marksOf(source.take));
  const about = { name, take: source.take, character, gait, direction, mirrorOf: mirrorOf(project.clips, described) };
  return { ...about, shipped, inputs: inputsOf(name) };
}

/**
 * Puts clips that were made into files, and tells of all of it.
 *
 * @param write is given each file as it is made
 */
export async function packProject(
  { fps, ship, sets = [], fields = [] }: Pick<Described, 'fps' | 'ship' | 'sets' | 'fields'>,
  made: readonly NamedShipped[],
  failed: readonly FailedClip[],
  cast: Cast,
  write: (file: MadeFile) => void | Promise<void>,
  validate?: Validate,
  breathe?: () => void | Promise<void>,
): Promise<Report> {
  const files: string[] = [];
  const packed = await packShipment(
    { ship, clips: made, cast, sets, fields },
    async (file) => {
      files.push(file.path);
      await write(file);
    },
    validate,
    breathe,
  );
  const fileOf = (name: string) => packed.fileOf.get(name) ?? '';
  const joins = made.flatMap((own): JoinReport[] => {
    const { name, shipped, inputs } = own;
    const { meets } = shipped;
    const { frames, fps: rate } = shipped.clip.motion;
    return meets ? [{ name, file: fileOf(name), frames, seconds: (frames - 1) / rate, meets, inputs }] : [];
  });
  return {
    fps: ship.fps ?? fps,
    ship,
    files,
    clips: made.flatMap((own) => (own.shipped.meets ? [] : [clipReport(own, fileOf(own.name))])),
    ...(joins.length > 0 && { joins }),
    failed,
    guarantees: packed.guarantees,
    warnings: packed.warnings,
  };
}

function clipReport({ name, take, character, gait, direction, shipped, inputs }: NamedShipped, file: string): ClipReport {
  const { rateChange, figures, against, homeCm, keys, marks, clip, warnings } = shipped;
  return {
    name,
    take,
    file,
    ...(character !== null && { character }),
    ...(gait && { gait }),
    ...(direction && { direction }),
    rateChange,
    ...figures,
    ...(homeCm !== null && { homeCm }),
    ...against,
    ...(clip.closing && { closing: clip.closing }),
    keys,
    ...(marks.length > 0 && { marks }),
    inputs,
    warnings,
  };
}

const clipOfJoin = ({ motion, contacts }: Joined): Clip => ({ motion, contacts, travel: null, loop: false, lead: null, tail: null });

/** The clip that another is the other side of: cut from the same, and mirrored once more or once less. */
export function mirrorOf(clips: Project['clips'], { name, source, steps }: Project['clips'][number]): string | null {
  const isMirrored = (own: Project['clips'][number]['steps']) => own.filter(({ kind, off }) => kind === 'mirror' && !off).length % 2 === 1;
  if (!isMirrored(steps)) return null;
  const { take, from, to } = source;
  return (
    clips.find(
      (own) => own.name !== name && own.source.take === take && own.source.from === from && own.source.to === to && !isMirrored(own.steps),
    )?.name ?? null
  );
}
