import { InputError, type Warning } from '../error';
import type { Cast, Character } from '../character/character';
import { readCharacter } from '../character/read-character';
import { readAsf } from '../formats/asf';
import { readTake } from '../formats/read-take';
import type { Motion } from '../model/motion';
import { describeTake } from '../passport/describe-take';
import { takeOverridesSchema } from '../passport/overrides';
import type { Project } from './schema';

/** A take in metres, as clips are cut from it, with what was odd about it. */
export interface PreparedTake {
  readonly motion: Motion;
  readonly warnings: readonly Warning[];
  /** Whom it is fitted to already, if to anybody. */
  readonly character?: string | null;
}

/** The takes and characters of a project in memory. */
export interface ReadProject {
  /** A take; what is wrong with it where it could not be read; undefined where there is none. */
  takeOf(id: string): PreparedTake | InputError | undefined;
  readonly cast: Cast;
}

/**
 * Reads the files that a project names. A take that cannot be read is an error of its own; the others are read.
 *
 * @param readFile gives the bytes of a file named in the project
 * @throws InputError when a character cannot be read
 */
export async function readProject(project: Project, readFile: (file: string) => Promise<Uint8Array>): Promise<ReadProject> {
  const takes = new Map<string, PreparedTake | InputError>();
  for (const { id, file, animation, skeleton, ...rest } of project.takes) {
    const overrides = takeOverridesSchema.parse(rest);
    const read = async (): Promise<PreparedTake> => {
      const skeletons = skeleton === undefined ? [] : [readAsf(await readFile(skeleton), skeleton)];
      const described = describeTake(readTake(await readFile(file), file, { skeletons }, animation), overrides);
      return { motion: described.motion, warnings: described.passport.warnings };
    };
    takes.set(id, await orInputError(read, file));
  }
  const cast = new Map<string, Character>();
  for (const { id, file } of project.characters) {
    const character = await orInputError(async () => readCharacter(await readFile(file), id), file);
    if (character instanceof InputError) throw character;
    cast.set(id, character);
  }
  return { takeOf: (id) => takes.get(id), cast };
}

/** What was wanted, or what is wrong with the input and in which file. */
async function orInputError<T>(run: () => Promise<T>, file: string): Promise<T | InputError> {
  try {
    return await run();
  } catch (error) {
    if (error instanceof InputError) return new InputError(error.code, error.message, { file, ...error.place });
    throw error;
  }
}
