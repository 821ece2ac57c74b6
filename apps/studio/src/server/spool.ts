import { createHash } from 'node:crypto';
import { mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { InputError } from '@lantern/motion';
import pLimit from 'p-limit';
import { bodyParts, problem } from './respond';

/** A request's body on disk: no connection of the database is held while it arrives. */
export interface Spooled {
  readonly size: number;
  /** SHA-256 of it. */
  readonly hash: string;
  readonly path: string;
}

/** Bodies that may arrive at the same time; more are asked to come again. */
const MOST_ARRIVING = 16;
/** Files that are read at the same time: each may take some times its size of memory. */
const reading = pLimit(2);
/** A body of which nothing comes for so long is given up, ms. */
const SILENCE = 20_000;

let arriving = 0;

/**
 * Takes a request's body to disk, then does something with it, a few at a time; the file is gone afterwards, whatever came of it.
 *
 * @param most bytes
 * @param silence ms in which something of it must arrive
 * @returns what `handle` gave, or an answer that says that too much is arriving
 * @throws InputError when it is too large, or nothing of it comes for a while
 */
export async function withSpooled(
  request: Request,
  most: number,
  handle: (file: Spooled) => Promise<Response>,
  silence = SILENCE,
): Promise<Response> {
  if (arriving >= MOST_ARRIVING) {
    const message = `${MOST_ARRIVING} files are on their way already: this one was not taken. Bring it in again in a moment.`;
    return problem(503, { code: 'busy', message }, { 'retry-after': '5' });
  }
  const folder = await mkdtemp(join(tmpdir(), 'old-lantern-'));
  try {
    arriving++;
    const path = join(folder, 'body');
    const { size, hash } = await spool(request, most, path, silence).finally(() => arriving--);
    return await reading(() => handle({ size, hash, path }));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function spool(request: Request, most: number, path: string, silence: number): Promise<{ size: number; hash: string }> {
  const hash = createHash('sha256');
  const file = await open(path, 'wx', 0o600);
  let size = 0;
  try {
    const parts = bodyParts(request, most);
    for (;;) {
      const { done, value } = await within(parts.next(), silence);
      if (done) break;
      hash.update(value);
      size += value.length;
      await file.write(value);
    }
  } finally {
    await file.close();
  }
  return { size, hash: hash.digest('hex') };
}

/** @throws InputError when it takes too long */
async function within<T>(promise: Promise<T>, ms: number): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(
      () => reject(new InputError('slow', `Nothing of the file came for ${Math.round(ms / 1000)} seconds; it was not taken.`)),
      ms,
    );
  });
  try {
    return await Promise.race([promise, late]);
  } finally {
    clearTimeout(timer);
  }
}
