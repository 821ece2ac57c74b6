import { InputError, type Place, type Warning } from '../error';
import { writeBvh } from '../formats/bvh-write';
import type { Cast } from '../character/character';
import { writeCharacterGlb } from '../character/character-write';
import { thinnedKeys } from '../character/thinned-keys';
import { writeGlb, type NamedClip } from '../character/glb-write';
import { joinFigures, type JoinFigures } from '../join/figures';
import type { Joined } from '../join/joined';
import { anyFigures, type PoseFigures } from '../measure/clip-figures';
import type { Kink } from '../measure/kink';
import type { Likeness } from '../measure/likeness';
import { worldMotion, type Clip } from '../model/clip';
import { againstSource } from '../recipe/against-source';
import { stepClips } from '../recipe/step-clips';
import { troublesOf } from '../steps';
import type { ClipRecipe } from '../recipe/recipe';
import { shipClip } from '../recipe/ship';
import { onHips } from '../set/play-clip';
import { rootOfGlb, setManifest } from './manifest';
import type { Project } from './schema';
import { readProject, type PreparedTake } from './read-project';
import { measureSet } from './sets';
import { projectSources, type Sources } from './sources';

export interface MadeFile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

export interface ClipReport extends Partial<PoseFigures> {
  readonly name: string;
  readonly take: string;
  readonly file: string;
  /** Whom it is fitted to. */
  readonly character?: string;
  readonly gait?: string;
  readonly direction?: string;
  /** By how much the retime to whole frames changes the speed; 1 is not at all. */
  readonly rateChange: number;
  /** How like the clip is to what was captured, and the kink of knees and elbows; null where frames cannot be compared. */
  readonly likeness?: Likeness | null;
  readonly kink?: Kink | null;
  /** How a loop was closed: as asked, or, where a blend would have been worse, around its seam. */
  readonly closing?: Clip['closing'];
  /** Where keys are thinned: how many are left of how many, and where a point within 10 cm of a joint is furthest off. */
  readonly keys?: {
    readonly kept: number;
    readonly dense: number;
    readonly worstMm: number;
    readonly joint: string;
    readonly frame: number;
  };
  readonly warnings: readonly Warning[];
}

/** A join as it was made, with the figures of every place at which two pieces meet. */
export interface JoinReport {
  readonly name: string;
  readonly file: string;
  readonly frames: number;
  readonly seconds: number;
  readonly meets: readonly JoinFigures[];
}

/** A clip or a join that could not be made, and why. */
export interface FailedClip {
  readonly name: string;
  readonly take: string;
  readonly code: string;
  readonly message: string;
  readonly place: Place;
}

export interface Report {
  readonly fps: number;
  readonly files: readonly string[];
  readonly clips: readonly ClipReport[];
  readonly joins?: readonly JoinReport[];
  /** Clips that could not be made; all others were. */
  readonly failed: readonly FailedClip[];
  readonly warnings: readonly Warning[];
}

/**
 * Makes everything that a project describes. A take that cannot be read, or a clip that cannot be made, fails by itself: the others are made.
 *
 * @param readFile gives the bytes of a file named in the project
 * @param progress told before each clip: how many are done, of how many
 * @throws InputError with the file, or the clip, in which something is wrong, when no clip at all can be made
 *
 * @example
 * const { files } = await make(parseProject(projectText), async () => bytes);
 * files.map(({ path }) => path); // ['wick.glb']
 */
export async function make(
  project: Project,
  readFile: (file: string) => Promise<Uint8Array>,
  progress: (done: number, of: number, name: string) => void = () => {},
): Promise<{ files: MadeFile[]; report: Report }> {
  const { takeOf, cast } = await readProject(project, readFile);
  return makeClips(project, takeOf, cast, progress);
}

/**
 * The same from takes and characters that are already in memory.
 *
 * @example
 * const made = await makeClips(parseProject(projectText), () => ({ motion, warnings: [] }));
 * made.report.clips.map(({ name }) => name); // ['stroll']
 */
export async function makeClips(
  project: Pick<Project, 'fps' | 'clips' | 'ship' | 'fits'> & Partial<Pick<Project, 'joins' | 'sets' | 'fields'>>,
  takeOf: (id: string) => PreparedTake | InputError | undefined,
  cast: Cast = new Map(),
  progress: (done: number, of: number, name: string) => void = () => {},
): Promise<{ files: MadeFile[]; report: Report }> {
  const fps = project.ship.fps ?? project.fps;
  const sources = projectSources(project, takeOf, cast);
  const made: (NamedClip & { clip: Clip; take: string; rateChange: number; file: string; character: string | null })[] = [];
  const reports: ClipReport[] = [];
  const errors: InputError[] = [];
  const failed: FailedClip[] = [];
  const several = new Set(project.clips.map(sources.character)).size > 1;
  const folder = project.ship.glb.replace(/[^/]*$/, '');
  const of = project.clips.length + (project.joins?.length ?? 0);
  for (const [index, described] of project.clips.entries()) {
    const { name, source, gait, direction } = described;
    const { take } = source;
    progress(index, of, name);
    const character = sources.character(described);
    try {
      const { run, recipe } = sources.run(described);
      const shipped = shipClip(run(recipe), fps);
      const file = project.ship.oneFilePerClip ? `${folder}${name}.glb` : fileOf(project, several, character);
      const figures = anyFigures(shipped.clip);
      reports.push({
        name,
        take,
        file,
        ...(character !== null && { character }),
        ...(gait && { gait }),
        ...(direction && { direction }),
        rateChange: shipped.rateChange,
        ...figures,
        ...againstSource(run, recipe),
        ...(shipped.clip.closing && { closing: shipped.clip.closing }),
        ...keysOf(shipped.clip),
        warnings: [...clipWarnings(shipped.rateChange), ...stepWarnings(run, recipe)],
      });
      made.push({ name, clip: shipped.clip, take, rateChange: shipped.rateChange, file, character });
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      const isTheTakes = error === sources.prepared(take);
      errors.push(isTheTakes ? error : new InputError(error.code, `Clip "${name}": ${error.message}`, error.place));
      failed.push({ name, take, code: error.code, message: error.message, place: error.place });
    }
  }
  const joins: JoinReport[] = [];
  for (const [index, { name }] of (project.joins ?? []).entries()) {
    progress(project.clips.length + index, of, name);
    try {
      const joined = sources.joined(name);
      const { clip, rateChange } = shipClip(clipOfJoin(joined), fps);
      const character = sources.characterOfJoin(name);
      const file = project.ship.oneFilePerClip ? `${folder}${name}.glb` : fileOf(project, several, character);
      made.push({ name, clip, take: name, rateChange, file, character });
      const { motion } = joined;
      joins.push({ name, file, frames: motion.frames, seconds: (motion.frames - 1) / motion.fps, meets: joinFigures(joined) });
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      errors.push(error);
      failed.push({ name, take: name, code: error.code, message: error.message, place: error.place });
    }
  }
  if (made.length === 0 && errors.length > 0) throw errors[0];
  const files: MadeFile[] = [];
  for (const path of new Set(made.map(({ file }) => file))) {
    const within = made.filter(({ file }) => file === path);
    const character = within[0].character === null ? undefined : cast.get(within[0].character);
    files.push({ path, bytes: character ? writeCharacterGlb(within, character) : await writeGlb(within) });
  }
  const manifests = manifestsOf(project, made, files, sources);
  files.push(...manifests.files);
  if (project.ship.bvh) {
    const encode = new TextEncoder();
    for (const { name, clip } of made) files.push({ path: `${folder}${name}.bvh`, bytes: encode.encode(writeBvh(worldMotion(clip))) });
  }
  const warnings = [...new Set(made.map((clip) => clip.take))].flatMap((id) => {
    const take = takeOf(id);
    return take && !(take instanceof InputError) ? take.warnings : [];
  });
  warnings.push(...manifests.warnings);
  const report: Report = {
    fps,
    files: files.map((file) => file.path),
    clips: reports,
    ...(joins.length > 0 && { joins }),
    failed,
    warnings,
  };
  return { files, report };
}

/** The manifest of every set whose clips are all in one file, beside it. */
function manifestsOf(
  project: Pick<Project, 'clips'> & Partial<Pick<Project, 'sets' | 'fields'>>,
  made: readonly (NamedClip & { file: string; character: string | null; clip: Clip })[],
  written: readonly MadeFile[],
  sources: Sources,
): { files: MadeFile[]; warnings: Warning[] } {
  const files: MadeFile[] = [];
  const warnings: Warning[] = [];
  for (const set of project.sets ?? []) {
    const own = made.filter(({ name, character }) => character === set.character && !set.without.includes(name));
    const glb = written.find(({ path }) => path === own[0]?.file);
    if (!glb || own.some(({ file }) => file !== glb.path)) continue;
    const { skeleton } = onHips(own[0].clip.motion);
    const root = rootOfGlb(glb.bytes, skeleton.joints[0].name);
    if (root === null) {
      warnings.push({
        code: 'manifest',
        message: `Set "${set.name}" has no manifest: in ${glb.path} no joint over the hips carries the travel.`,
      });
      continue;
    }
    const { coverage } = measureSet(project, set, sources);
    const file = glb.path.replace(/^.*\//, '');
    const manifest = setManifest(set, own, project.fields ?? [], { file, bytes: glb.bytes, root, coverage });
    const path = glb.path.replace(/\.glb$/i, '.lantern.json');
    // A second set of the same character is told apart by its name.
    const free = files.some((other) => other.path === path) ? path.replace(/\.lantern\.json$/, `-${set.name}.lantern.json`) : path;
    files.push({ path: free, bytes: new TextEncoder().encode(`${JSON.stringify(manifest, null, 1)}\n`) });
  }
  return { files, warnings };
}

const clipOfJoin = ({ motion, contacts }: Joined): Clip => ({ motion, contacts, travel: null, loop: false, lead: null, tail: null });

/** All clips go into one file, but each character, whose skeleton and skin are its own, into one of its own where there are several. */
function fileOf({ ship }: Pick<Project, 'ship'>, several: boolean, character: string | null): string {
  return several && character !== null
    ? ship.glb.replace(/\.glb$/i, (end) => `-${character.replace(/[^\p{L}\p{N}_-]+/gu, '-')}${end}`)
    : ship.glb;
}

/** What is left of the keys of a clip that is thinned. */
function keysOf(clip: Clip): Pick<ClipReport, 'keys'> {
  const thinned = thinnedKeys(clip);
  if (!thinned) return {};
  const { kept, dense, worst } = thinned;
  return { keys: { kept, dense, worstMm: worst.metres * 1000, joint: clip.motion.skeleton.joints[worst.joint].name, frame: worst.frame } };
}

/** What of a clip's steps cannot be done on it. */
const stepWarnings = (run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): Warning[] =>
  stepClips(run, recipe).flatMap((clips) => troublesOf(clips.step, clips).map((message) => ({ code: 'left-out', message })));

function clipWarnings(rateChange: number): Warning[] {
  const percent = Math.abs(rateChange - 1) * 100;
  if (percent <= 1) return [];
  return [{ code: 'retime', message: `The retime to whole frames changes the speed by ${percent.toFixed(1)} %.` }];
}
