import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { InputError } from '@lantern/motion';
import { Piscina } from 'piscina';
import type { ReadAnswer, ReadTask } from './read-task';

/** Two for files, of which no more are read at a time, and one more: whoever reads a take otherwise does not wait for them. */
const THREADS = 3;
/** A task that takes longer is given up, seconds. */
const LONGEST = 240;
/** Memory for the objects of one task, megabytes; the numbers of a motion have a limit of their own. */
const MOST_MEGABYTES = 768;
/** Milliseconds after which a thread with nothing to do is let go. */
const IDLE = 30_000;

const shared = globalThis as typeof globalThis & { lanternReaders?: Piscina | undefined };

function readers(): Piscina {
  // Started beside the application, or by its tests from the project's folder.
  const built = ['dist/reader.mjs', 'apps/studio/dist/reader.mjs'].map((path) => join(process.cwd(), path)).find(existsSync);
  if (!built) throw new Error('the reader is not built');
  shared.lanternReaders ??= new Piscina({
    filename: pathToFileURL(built).href,
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: IDLE,
    env: process.env as Record<string, string>,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });
  return shared.lanternReaders;
}

export interface Reading {
  /** Ends the task: its thread is stopped and nothing of it is stored. */
  readonly signal?: AbortSignal;
  /** Told the share that is done, 0 to 1. */
  readonly told?: (share: number) => void;
  /** Seconds; for tests. */
  readonly longest?: number;
}

/**
 * Works something out in a thread beside the server.
 *
 * @throws InputError as the task does, or `slow`, `stopped`, `memory` when it had to be ended; what else goes wrong with its code
 */
export async function readApart<T>(task: ReadTask, { signal, told, longest = LONGEST }: Reading = {}): Promise<T> {
  const late = AbortSignal.timeout(longest * 1000);
  const { port1, port2 } = new MessageChannel();
  port1.on('message', (share: number) => told?.(share));
  try {
    const answer = (await readers().run(
      { task, told: port2 },
      { transferList: [port2], signal: signal ? AbortSignal.any([signal, late]) : late },
    )) as ReadAnswer;
    if ('refused' in answer) throw new InputError(answer.refused.code, answer.refused.message, answer.refused.place);
    if ('failed' in answer) {
      const { code, message, stack } = answer.failed;
      throw Object.assign(new Error(message), { stack: stack ?? message, ...(code && { code }) });
    }
    return answer.value as T;
  } catch (error) {
    if (signal?.aborted) throw new InputError('stopped', 'It was stopped; nothing of it was stored.');
    if (late.aborted) throw new InputError('slow', `It took longer than ${longest} seconds and was given up; nothing of it was stored.`);
    if ((error as { code?: unknown }).code === 'ERR_WORKER_OUT_OF_MEMORY')
      throw new InputError('memory', 'It needs more memory than one file is given; nothing of it was stored.');
    throw error;
  } finally {
    port1.close();
  }
}

/** Ends the threads, and with them what they do; the next task starts them again. */
export async function endReaders(): Promise<void> {
  const held = shared.lanternReaders;
  shared.lanternReaders = undefined;
  await held?.destroy();
}
