import { open, stat } from 'node:fs/promises';
import { InputError, MOST_BYTES, readTake, type Take } from '@lantern/motion';

/**
 * The bytes of an input file.
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
  if (found.size > MOST_BYTES)
    fail('too-large', `The file has ${Math.round(found.size / 1e6)} MB; ${MOST_BYTES / 1e6} MB is the most that is read.`);
  const handle = await open(file).catch((error: NodeJS.ErrnoException) =>
    fail('unreadable', `The file cannot be read (${error.code ?? 'unknown reason'}).`),
  );
  try {
    return await handle.readFile();
  } finally {
    await handle.close();
  }
}

/** A take from a file; errors carry the file's name. */
export async function readTakeFile(file: string): Promise<Take> {
  const bytes = await readInput(file);
  return inFile(file, () => readTake(bytes, file));
}

/** Runs something whose input errors should name the file. */
export function inFile<T>(file: string, run: () => T): T {
  try {
    return run();
  } catch (error) {
    if (error instanceof InputError) throw new InputError(error.code, error.message, { file, ...error.place });
    throw error;
  }
}
