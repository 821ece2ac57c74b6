import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { setPriority } from 'node:os';
import { isMainThread } from 'node:worker_threads';
import { InputError } from '@lantern/motion';
import type { NewProjectInput } from '@/http/projects';
import { importArchive } from './archive/import';
import { importCharacter } from './characters';
import { connect, type Database } from './database';
import { addCast, DEMO, loadDemo } from './demo';
import { draftFor } from './draft-set';
import { DAY, loadDay } from './capture-day';
import { importStream, makeOverview, readWay, STREAMED_BYTES } from './long-takes';
import { beginProject } from './projects';
import type { Ordered, ReadAnswer, ReadTask } from './read-task';
import { changeTake, importFile } from './takes';
import { isAway } from './trouble';

// A thread beside the server that reads files and works takes out, with a connection of its own: when it is ended in the middle of a
// task, its transaction ends with it and nothing is stored.

/** How far it stands back while the processor is wanted by others: pages, and the server that answers them. */
const STANDS_BACK = 10;
// Linux gives every thread a priority of its own; elsewhere it would be that of the whole server.
if (!isMainThread && process.platform === 'linux') {
  try {
    setPriority(STANDS_BACK);
  } catch {
    // Where that is not allowed, everything else goes on as it is.
  }
}

let own: Database | null = null;
function database(): Database {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set');
  own ??= connect(url, 2).database;
  return own;
}

/** Runs a task, whatever comes of it. */
export default async function run({ task, told }: Ordered): Promise<ReadAnswer> {
  try {
    return { value: await work(task, (share) => told?.postMessage(share)) };
  } catch (error) {
    if (error instanceof InputError) return { refused: { code: error.code, message: error.message, place: { ...error.place } } };
    const { message, stack } = error instanceof Error ? error : { message: String(error), stack: undefined };
    return { failed: { code: isAway(error) ? 'ECONNREFUSED' : null, message, stack } };
  } finally {
    told?.close();
  }
}

async function work(task: ReadTask, told: (share: number) => void): Promise<unknown> {
  switch (task.kind) {
    case 'take': {
      const { project, file, path, size } = task;
      if (/\.bvh$/i.test(file) && size > STREAMED_BYTES) return importStream(database(), project, file, partsOf(path, size, told));
      const bytes = await readFile(path);
      // All takes of a file or none, also when this is stopped between two of them.
      return database().transaction((transaction) => importFile(transaction as unknown as Database, project, file, bytes, told));
    }
    case 'character':
      return importCharacter(database(), task.project, task.file, await readFile(task.path));
    case 'change': {
      const result = await changeTake(database(), task.take, task.patch, task.before);
      if (result.outcome === 'changed' && result.take.long && task.patch.overrides) await makeOverview(database(), result.take);
      return result;
    }
    case 'way':
      return readWay(database(), task.take, task.joint);
    case 'archive':
      return importArchive(database(), task.path, told);
    case 'begin':
      return database().transaction((transaction) => begin(transaction as unknown as Database, task.input));
    case 'demo':
      return database().transaction(async (transaction) => {
        const own = transaction as unknown as Database;
        const id = await begin(own, { name: DEMO.name, character: DEMO.character, fps: 60 });
        await loadDemo(own, id, told);
        return id;
      });
    case 'day':
      return database().transaction(async (transaction) => {
        const own = transaction as unknown as Database;
        const id = await begin(own, { name: DAY.name, character: DEMO.character, fps: 60 });
        await loadDay(own, id, told);
        return id;
      });
    case 'draft':
      return draftFor(database(), task.project, task.input, told);
  }
}

/** A project with the characters that come with the program. */
async function begin(own: Database, input: NewProjectInput): Promise<string> {
  const id = await beginProject(own, input);
  await addCast(own, id);
  return id;
}

async function* partsOf(path: string, size: number, told: (share: number) => void): AsyncGenerator<Uint8Array> {
  let read = 0;
  for await (const part of createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Uint8Array>) {
    yield part;
    read += part.length;
    told(read / size);
  }
}
