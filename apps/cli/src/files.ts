import { readFileSync, statSync } from 'node:fs';
import { mkdir, open, readdir, stat, writeFile } from 'node:fs/promises';
import { dirname, isAbsolute, join, relative, resolve, sep } from 'node:path';
import { unpackGlb } from '@lantern/unpack';
import { bareName, InputError, MOST_BYTES, readAsf, readTakes, type AsfSkeleton, type Take } from '@lantern/motion';

/**
 * The bytes of an input file, those of a packed GLB unpacked.
 *
 * @throws InputError in seconds, without reading it all, when it is missing, a folder, or too large
 */
export async function readInput(file: string): Promise<Uint8Array> {
  const fail = (code: string, message: string): never => {
    throw new InputError(code, message, { file, line: 1 });
  };
  const found = await stat(file).catch((error: NodeJS.ErrnoException) =>
    fail('unreadable', error.code === 'ENOENT' ? 'There is no such file.' : `The file cannot be read (${error.code ?? 'unknown reason'}).`),
  );
  if (found.isDirectory()) fail('folder', 'This is a folder; a file was expected.');
  // A device or a pipe may never end.
  if (!found.isFile()) fail('no-file', 'This is a device or a pipe; a file was expected.');
  if (found.size > MOST_BYTES)
    fail('too-large', `The file has ${Math.round(found.size / 1e6)} MB; ${MOST_BYTES / 1e6} MB is the most that is read.`);
  const handle = await open(file).catch((error: NodeJS.ErrnoException) =>
    fail('unreadable', `The file cannot be read (${error.code ?? 'unknown reason'}).`),
  );
  try {
    return await unpackGlb(await handle.readFile());
  } finally {
    await handle.close();
  }
}

/**
 * The takes of some files, skeletons among them put to the AMC motions that fit them; an AMC on its own looks for skeletons in its folder.
 *
 * @throws InputError that carries the file's name
 */
export async function* readTakeFiles(files: readonly string[]): AsyncGenerator<{ file: string; takes: Take[] }> {
  const skeletons = new Map<string, AsfSkeleton>();
  const addSkeleton = async (file: string) => {
    if (skeletons.has(file)) return;
    const bytes = await readInput(file);
    skeletons.set(
      file,
      inFile(file, () => readAsf(bytes, bareName(file))),
    );
  };
  for (const file of files) if (isAsf(file)) await addSkeleton(file);
  for (const file of files) {
    if (isAsf(file) && files.some((other) => /\.amc$/i.test(other))) continue;
    const bytes = await readInput(file);
    const folder = dirname(file);
    if (/\.amc$/i.test(file)) {
      const beside = await readdir(folder);
      // One that nobody asked for and that cannot be read is none of this file's business.
      for (const name of beside) if (isAsf(name)) await addSkeleton(join(folder, name)).catch(ifBroken);
    }
    const resources = (uri: string) => {
      const name = decoded(uri);
      if (name === null) return undefined;
      // Only what lies beside the file or below it is read.
      return isAbsolute(name) || name.split(/[/\\]/).includes('..') ? undefined : readBeside(join(folder, name));
    };
    yield { file, takes: inFile(file, () => readTakes(bytes, file, { skeletons: [...skeletons.values()], resources })) };
  }
}

/** The first take of a file; errors carry the file's name. */
export async function readTakeFile(file: string): Promise<Take> {
  for await (const { takes } of readTakeFiles([file])) return takes[0];
  throw new InputError('empty', 'The file has no take.', { file, line: 1 });
}

const isAsf = (file: string) => /\.asf$/i.test(file);

/** A name as an address has it, or null when it has none. */
function decoded(uri: string): string | null {
  try {
    return decodeURIComponent(uri);
  } catch {
    return null;
  }
}

function ifBroken(error: unknown): void {
  if (!(error instanceof InputError)) throw error;
}

/**
 * A place inside of a folder.
 *
 * @throws InputError when it would lie outside, whatever the name is made of
 */
export function placeIn(folder: string, name: string, what: string): string {
  const place = resolve(folder, name);
  const way = relative(resolve(folder), place);
  const isInside = way !== '' && !isAbsolute(way) && way.split(sep)[0] !== '..';

  if (!isInside || /[\u0000-\u001f\u007f]/.test(name))
    throw new InputError('outside', `${what} “${printable(name)}” does not lie in the folder.`);
  return place;
}

const printable = (name: string) => name.replace(/[\u0000-\u001f\u007f]/g, '?');

/** Writes a file with the folders that it needs. @throws InputError when it cannot be written there */
export async function writeOutput(file: string, content: string | Uint8Array): Promise<void> {
  try {
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, content);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    throw new InputError('unwritable', `The file cannot be written (${WORDS[code ?? ''] ?? code ?? 'unknown reason'}).`, { file, line: 1 });
  }
}

const WORDS: Readonly<Record<string, string>> = {
  EACCES: 'nobody may write there',
  EPERM: 'nobody may write there',
  EROFS: 'nothing can be written there',
  ENAMETOOLONG: 'its name is too long',
  ENOTDIR: 'a part of its folder is a file',
  EEXIST: 'a part of its folder is a file',
  EISDIR: 'a folder is there',
  ENOSPC: 'there is no room',
};

function readBeside(file: string): Uint8Array | undefined {
  try {
    return statSync(file).size <= MOST_BYTES ? readFileSync(file) : undefined;
  } catch {
    return undefined;
  }
}

/** Runs something whose input errors should name the file. */
export function inFile<T>(file: string, run: () => T): T {
  try {
    return run();
  } catch (error) {
    throw placed(file, error);
  }
}

/** The same for what takes its time. */
export async function inFileAsync<T>(file: string, run: () => Promise<T>): Promise<T> {
  try {
    return await run();
  } catch (error) {
    throw placed(file, error);
  }
}

const placed = (file: string, error: unknown): unknown =>
  error instanceof InputError ? new InputError(error.code, error.message, { file, ...error.place }) : error;
