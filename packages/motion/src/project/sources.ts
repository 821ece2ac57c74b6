import { InputError } from '../error';
import type { Cast } from '../character/character';
import { withMapping } from '../fit/mapped-body';
import { buildJoin } from '../join/build-join';
import type { Joined } from '../join/joined';
import type { Clip } from '../model/clip';
import type { Motion } from '../model/motion';
import type { HomePose } from '../model/home-pose';
import { skeletonSignature } from '../model/signature';
import { homeFrom } from '../set/home';
import type { RecipeStep } from '../steps';
import { recipeRunner, type ClipRecipe } from '../recipe/recipe';
import { mappingOf, withFits } from '../recipe/with-fits';
import { charactersOf } from './characters-of';
import type { PreparedTake } from './read-project';
import type { Project } from './schema';
import type { Marker } from './take-extras';

type Described = Pick<Project, 'clips' | 'fits'> & Partial<Pick<Project, 'joins' | 'sets' | 'takes'>>;

/** What a project's clips and joins are made from: takes, and joins that clips are cut from as from takes. */
export interface Sources {
  /** A take, or a join; what is wrong with it; undefined where there is none. */
  prepared(id: string): PreparedTake | InputError | undefined;
  /** A clip's recipe run over what it is cut from, with what is settled for its suit. */
  run(clip: Described['clips'][number]): { readonly run: (recipe: ClipRecipe) => Clip; readonly recipe: ClipRecipe };
  joined(name: string): Joined;
  /** Whom a clip is fitted to: by its own recipe, or because what it is cut from is; null where nobody. */
  character(clip: Described['clips'][number]): string | null;
  /** Whom the pieces of a join are fitted to: all of them alike, or it cannot be made. */
  characterOfJoin(name: string): string | null;
  /** The home pose of a character's set; null where none is chosen. */
  home(character: string | null): HomePose | null;
  /** Named frames of a take, or of a join. */
  marksOf(id: string): Marker[];
}

/**
 * @param takeOf the project's takes
 * @throws InputError `join` from its functions where joins and clips go round: a join of a clip that is cut from the join
 */
export function projectSources(project: Described, takeOf: (id: string) => PreparedTake | InputError | undefined, cast: Cast): Sources {
  const joins = project.joins ?? [];
  const runners = new Map<string, (recipe: ClipRecipe) => Clip>();
  const made = new Map<string, Joined>();
  const open = new Set<string>();
  const prepared = (id: string): PreparedTake | InputError | undefined => {
    if (!joins.some(({ name }) => name === id)) return takeOf(id);
    try {
      return { motion: joined(id).motion, warnings: [] };
    } catch (error) {
      if (error instanceof InputError) return error;
      throw error;
    }
  };
  const motionOf = (id: string): Motion => {
    const found = prepared(id);
    if (!found) throw new InputError('project', `Take "${id}" is missing.`, { field: 'clips' });
    if (found instanceof InputError) throw found;
    return found.motion;
  };
  const run = (clip: Described['clips'][number]) => {
    const { take, from, to } = clip.source;
    const motion = motionOf(take);
    const signature = skeletonSignature(motion.skeleton);
    const runner = runners.get(take) ?? recipeRunner(withMapping(motion, mappingOf(signature, project.fits)), cast);
    runners.set(take, runner);
    return { run: runner, recipe: { from, to, steps: withFits(withHome(clip), signature, project.fits) } };
  };
  // Ends that meet home do so in the pose of the character's set; the clip that the pose is of does so as it is without.
  const homes = new Map<string | null, HomePose | null>();
  const homeOf = (character: string | null): HomePose | null => {
    const known = homes.get(character);
    if (known !== undefined) return known;
    homes.set(character, null);
    const home = project.sets?.find((set) => set.character === character && set.home)?.home;
    const clip = home && project.clips.find(({ name }) => name === home.clip);
    if (!home || !clip) return null;
    const { run: runner, recipe } = run({ ...clip, steps: clip.steps.filter(({ kind }) => kind !== 'meet-home') });
    const pose = homeFrom(runner(recipe), home.frame);
    homes.set(character, pose);
    return pose;
  };
  const withHome = (clip: Described['clips'][number]): RecipeStep[] =>
    clip.steps.map((step) => (step.kind === 'meet-home' && !step.pose ? { ...step, pose: homeOf(character(clip)) ?? undefined } : step));
  const joined = (name: string): Joined => {
    const known = made.get(name);
    if (known) return known;
    const join = joins.find((own) => own.name === name);
    if (!join) throw new InputError('join', `There is no join "${name}".`, { field: 'joins' });
    if (open.has(name)) throw new InputError('join', `Join "${name}" goes round: one of its clips is cut from it.`, { field: 'joins' });
    open.add(name);
    try {
      const result = buildJoin(join, {
        clip: (wanted) => {
          const clip = project.clips.find((own) => own.name === wanted);
          if (!clip) return null;
          const { run: runner, recipe } = run(clip);
          return runner(recipe);
        },
        take: (id) => (joins.some((own) => own.name === id) || takeOf(id) ? motionOf(id) : null),
      });
      made.set(name, result);
      return result;
    } finally {
      open.delete(name);
    }
  };
  const characters = charactersOf(project, (id) => {
    const found = takeOf(id);
    return found && !(found instanceof InputError) ? (found.character ?? null) : null;
  });
  const marksOf = (id: string): Marker[] => {
    const join = joins.find(({ name }) => name === id);
    if (!join) return project.takes?.find((take) => take.id === id)?.markers ?? [];
    const { spans, motion } = joined(id);
    return join.pieces.flatMap(({ marks }, i) =>
      marks.flatMap(({ at, name }) => {
        const frame = Math.round(spans[i].start + at);
        return frame >= 0 && frame < motion.frames ? [{ frame, name }] : [];
      }),
    );
  };
  const character = characters.clip;
  return { prepared, run, joined, character, characterOfJoin: characters.join, home: homeOf, marksOf };
}
