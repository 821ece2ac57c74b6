import { randomUUID } from 'node:crypto';
import { and, desc, eq, inArray, isNull, lt, or, sql } from 'drizzle-orm';
import PgBoss from 'pg-boss';
import { z } from 'zod';
import { connect, type Database } from './database';
import type { FitState } from '@/http/fit-run';
import { log } from './log';
import { SHIP_QUEUE } from './ship/made-clips';
import { fitPieces, readPieces, writePieces } from './pieces';
import { filePieces, fitJobs, takes } from './schema';
import { toLog } from './trouble';

/** The queue that workers take fits from; a job's data are the id of a row of `fit_jobs`, which is the truth about it. */
export const FIT_QUEUE = 'fit';
export interface FitJobData {
  readonly id: string;
}

/** Seconds without a sign of life after which a worker is taken for dead. */
export const DEAD_AFTER = 12;
/** Seconds that the queue leaves a job to its worker: a fit of half an hour's take must end in it, or it would be begun again beside itself. */
const LONGEST = 900;
/** Milliseconds after which a row that waits has its job in the queue, or has lost it. */
const SETTLED_MS = 3000;
/** A job that has been begun so often and never ended kills its workers: it is given up. */
export const MOST_TRIES = 4;

export type FitJobRow = Omit<typeof fitJobs.$inferSelect, 'project'> & { readonly hasFile: boolean };

const columns = {
  id: fitJobs.id,
  run: fitJobs.run,
  take: fitJobs.take,
  character: fitJobs.character,
  state: fitJobs.state,
  beat: fitJobs.beat,
  tries: fitJobs.tries,
  report: fitJobs.report,
  message: fitJobs.message,
  created: fitJobs.created,
  finished: fitJobs.finished,
  hasFile: sql<boolean>`exists (select 1 from ${filePieces} where ${filePieces.file} = 'fit ' || ${fitJobs.id})`,
};

const shared = globalThis as typeof globalThis & { lanternBoss?: Promise<PgBoss> | undefined };

/** The server's own connection to the queue; kept across reloads in development. */
export function boss(url = process.env.DATABASE_URL): Promise<PgBoss> {
  if (!url) throw new Error('DATABASE_URL is not set');
  // One that could not be opened is not kept: the next request opens it again.
  shared.lanternBoss ??= openBoss(url).catch((error: unknown) => {
    shared.lanternBoss = undefined;
    throw error;
  });
  return shared.lanternBoss;
}

export async function openBoss(url: string): Promise<PgBoss> {
  const made = new PgBoss({ connectionString: url, max: 3 });
  // It looks again by itself; what was asked of it meanwhile fails, and is told.
  made.on('error', (error) => log.warn(toLog(error), 'the queue'));
  // Its tables are made by one at a time: of two that begin at once on a new database each would wait for what the other holds.
  const { database, close } = connect(url, 1);
  try {
    await database.transaction(async (transaction) => {
      await transaction.execute(sql`select pg_advisory_xact_lock(hashtextextended('tables of the queue', 0))`);
      await made.start();
      await made.createQueue(FIT_QUEUE);
      await made.createQueue(SHIP_QUEUE);
    });
  } finally {
    await close();
  }
  return made;
}

export const fitRunInput = z.object({
  takes: z.array(z.uuid()).min(1).max(2000),
  characters: z.array(z.string().min(1).max(200)).min(1).max(50),
});

/** Puts every take onto every character in the queue. @returns the run they are in */
export async function startRun(
  database: Database,
  queue: Pick<PgBoss, 'insert'>,
  project: string,
  input: z.infer<typeof fitRunInput>,
): Promise<string> {
  const run = randomUUID();
  const known = await database
    .select({ id: takes.id })
    .from(takes)
    .where(and(eq(takes.project, project), inArray(takes.id, input.takes), isNull(takes.removed)));
  const rows = input.characters.flatMap((character) => known.map(({ id: take }) => ({ id: randomUUID(), project, run, take, character })));
  await database.transaction(async (transaction) => {
    for (const part of inBatches(rows)) await transaction.insert(fitJobs).values(part);
  });
  // Rows come first: should the queue fail now, `sweep` finds them without a job.
  await enqueue(queue, rows).catch((error: unknown) => log.warn(toLog(error), 'jobs will be queued later'));
  return run;
}

/** Rows that are written in one statement: its parameters are counted by the database in sixteen bits. */
const BATCH = 2000;

function inBatches<T>(all: readonly T[]): T[][] {
  return Array.from({ length: Math.ceil(all.length / BATCH) }, (_, i) => all.slice(i * BATCH, (i + 1) * BATCH));
}

async function enqueue(queue: Pick<PgBoss, 'insert'>, rows: readonly { readonly id: string }[]): Promise<void> {
  for (const part of inBatches(rows))
    await queue.insert(
      part.map(({ id }) => ({
        name: FIT_QUEUE,
        data: { id } satisfies FitJobData,
        retryLimit: MOST_TRIES,
        expireInSeconds: LONGEST,
      })),
    );
}

/** The jobs of the newest run of a project. */
export async function newestRun(database: Database, project: string): Promise<FitJobRow[]> {
  const [newest] = await database
    .select({ run: fitJobs.run })
    .from(fitJobs)
    .where(eq(fitJobs.project, project))
    .orderBy(desc(fitJobs.created))
    .limit(1);
  if (!newest) return [];
  return database.select(columns).from(fitJobs).where(eq(fitJobs.run, newest.run));
}

/** Stops what has not ended; a job under way ends at its next step and its result is thrown away. */
export async function stopRun(database: Database, run: string): Promise<number> {
  const done = await database
    .update(fitJobs)
    .set({ state: 'stopped', finished: new Date() })
    .where(and(eq(fitJobs.run, run), inArray(fitJobs.state, ['waiting', 'running'] satisfies FitState[])))
    .returning({ id: fitJobs.id });
  return done.length;
}

export const fitFile = (database: Database, id: string): Promise<Buffer | null> => readPieces(database, fitPieces(id));

const isDead = () => lt(fitJobs.beat, new Date(Date.now() - DEAD_AFTER * 1000));

/** Takes a job for oneself, if nobody alive has it. @returns what to do, or null when there is nothing left to do for it */
export async function claim(database: Database, id: string): Promise<{ take: string; character: string; project: string } | null> {
  const [row] = await database
    .update(fitJobs)
    .set({ state: 'running', beat: new Date(), tries: sql`${fitJobs.tries} + 1` })
    .where(and(eq(fitJobs.id, id), or(eq(fitJobs.state, 'waiting'), and(eq(fitJobs.state, 'running'), isDead()))))
    .returning({ take: fitJobs.take, character: fitJobs.character, project: fitJobs.project });
  return row ?? null;
}

/** A sign of life. @returns whether the job is still wanted */
export async function beat(database: Database, id: string): Promise<boolean> {
  const rows = await database
    .update(fitJobs)
    .set({ beat: new Date() })
    .where(and(eq(fitJobs.id, id), eq(fitJobs.state, 'running')))
    .returning({ id: fitJobs.id });
  return rows.length > 0;
}

type Ending =
  | { readonly state: 'done'; readonly report: NonNullable<FitJobRow['report']>; readonly bytes: Buffer | null }
  | { readonly state: 'failed'; readonly message: string };

/** Writes down how a job ended, unless it was stopped meanwhile. */
export async function finish(database: Database, id: string, ending: Ending): Promise<void> {
  const { bytes, ...row } = { bytes: null, ...ending };
  await database.transaction(async (transaction) => {
    const ended = await transaction
      .update(fitJobs)
      .set({ ...row, finished: new Date() })
      .where(and(eq(fitJobs.id, id), eq(fitJobs.state, 'running')))
      .returning({ id: fitJobs.id });
    if (bytes && ended.length > 0) await writePieces(transaction, fitPieces(id), bytes);
  });
}

/**
 * Mends the queue: jobs whose worker died wait again, or are given up when they were begun too often; and rows that wait without a live
 * job in the queue get one, whatever was cut off between the two. A job too many does no harm: only one can be claimed.
 *
 * @returns how many were put into the queue
 */
export async function sweep(database: Database, queue: Pick<PgBoss, 'insert'>): Promise<number> {
  await database
    .update(fitJobs)
    .set({
      state: 'failed',
      finished: new Date(),
      message: 'It was begun several times and never ended; the take may be too long for this machine.',
    })
    .where(and(eq(fitJobs.state, 'running'), isDead(), sql`${fitJobs.tries} >= ${MOST_TRIES}`));
  const dead = await database
    .update(fitJobs)
    .set({ state: 'waiting', beat: null })
    .where(and(eq(fitJobs.state, 'running'), isDead()))
    .returning({ id: fitJobs.id });
  const lost = await database
    .select({ id: fitJobs.id })
    .from(fitJobs)
    .where(
      and(
        eq(fitJobs.state, 'waiting'),
        // One that was put there a moment ago may be between the two inserts.
        lt(fitJobs.created, new Date(Date.now() - SETTLED_MS)),
        sql`not exists (select 1 from pgboss.job where name = ${FIT_QUEUE} and data->>'id' = ${fitJobs.id}::text
          and (state in ('created', 'retry') or (state = 'active' and started_on > now() - ${`${DEAD_AFTER} seconds`}::interval)))`,
      ),
    );
  const all = [...new Map([...dead, ...lost].map((row) => [row.id, row])).values()];
  await enqueue(queue, all);
  return all.length;
}
