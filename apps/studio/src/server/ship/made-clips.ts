import { createHash } from 'node:crypto';
import { canonical, projectInputs, shippedNames, type ShipOptions } from '@lantern/motion';
import { and, eq, inArray, lt, sql } from 'drizzle-orm';
import type PgBoss from 'pg-boss';
import type { ClipAbout, ClipFailure, MadeState } from '@/http/shipment';
import type { Database } from '../database';
import { log } from '../log';
import { writePieces } from '../pieces';
import { madeClips, shipDocuments, shipmentClips, shipments } from './tables';
import { toLog } from '../trouble';
import { contentIn, type OpenDocument } from './document';

/** The queue that says that there is something to make; what it is stands in `made_clips` and `shipments`. */
export const SHIP_QUEUE = 'ship';
/** Workers that are called for what is asked at once. */
const CALLED = 8;
/** Seconds without a sign of life after which a worker is taken for dead; a clip of a long take is worked on so long without one. */
export const DEAD_AFTER = 20;
/** A clip that has been begun so often and never ended kills its workers: it is given up. */
export const MOST_TRIES = 4;
/** Clips that are asked for in one statement: its parameters are counted in sixteen bits. */
const BATCH = 500;

/** Which version of the program makes: what was made by another is made anew. */
const VERSION = process.env.LANTERN_CORE ?? 'work';

/** What a clip's bytes are called among the pieces. */
export const clipPieces = (key: string): string => `clip ${key}`;

/** The clips and joins of a document in the order in which they ship, each by what it is made from. */
export function keysIn(document: OpenDocument): { readonly name: string; readonly key: string }[] {
  const inputs = projectInputs(document.parsed, contentIn(document));
  return shippedNames(document.parsed).map((name) => ({
    name,
    key: createHash('sha256')
      .update(canonical([VERSION, inputs(name)]))
      .digest('hex'),
  }));
}

/** Keeps a document, so that workers find it. */
export async function keepDocument(database: Pick<Database, 'insert'>, project: string, document: OpenDocument): Promise<void> {
  const { hash, parsed: _parsed, ...kept } = document;
  await database.insert(shipDocuments).values({ hash, project, document: kept }).onConflictDoNothing();
}

export interface MadeRow {
  readonly key: string;
  readonly state: MadeState;
  readonly about: ClipAbout | null;
  readonly failure: ClipFailure | null;
}

/**
 * What is known of clips; what is not is put into the queue.
 *
 * @param again failed ones are tried once more
 */
export async function askForClips(
  database: Database,
  queue: Pick<PgBoss, 'insert'>,
  project: string,
  document: OpenDocument,
  asked: readonly { readonly name: string; readonly key: string }[],
  again = false,
): Promise<ReadonlyMap<string, MadeRow>> {
  const known = new Map<string, MadeRow>();
  const columns = { key: madeClips.key, state: madeClips.state, about: madeClips.about, failure: madeClips.failure };
  const keys = [...new Map(asked.map(({ key, name }) => [key, name]))];
  for (let i = 0; i < keys.length; i += BATCH) {
    const own = keys.slice(i, i + BATCH).map(([key]) => key);
    for (const row of await database.select(columns).from(madeClips).where(inArray(madeClips.key, own))) known.set(row.key, row);
    // What is asked for stays; noted once a day.
    await database
      .update(madeClips)
      .set({ asked: new Date() })
      .where(and(inArray(madeClips.key, own), eq(madeClips.state, 'done'), lt(madeClips.asked, new Date(Date.now() - 86_400_000))));
  }
  const missing = keys.filter(([key]) => !known.has(key) || (again && known.get(key)?.state === 'failed'));
  if (missing.length === 0) return known;
  await keepDocument(database, project, document);
  for (let i = 0; i < missing.length; i += BATCH) {
    const rows = missing.slice(i, i + BATCH).map(([key, name]) => ({ key, name, document: document.hash }));
    await database
      .insert(madeClips)
      .values(rows)
      .onConflictDoUpdate({
        target: madeClips.key,
        set: { state: 'waiting', tries: 0, failure: null, document: document.hash, asked: new Date() },
        setWhere: eq(madeClips.state, 'failed'),
      });
  }
  for (const [key] of missing) known.set(key, { key, state: 'waiting', about: null, failure: null });
  await call(queue, Math.min(CALLED, missing.length));
  return known;
}

/** Tells workers that there is something to do. Should the queue fail, they find it by themselves. */
export async function call(queue: Pick<PgBoss, 'insert'>, workers = CALLED): Promise<void> {
  const jobs = Array.from({ length: workers }, () => ({ name: SHIP_QUEUE, data: {}, expireInSeconds: 900, retryLimit: 0 }));
  await queue.insert(jobs).catch((error: unknown) => log.warn(toLog(error), 'workers will look by themselves'));
}

/** A clip to make, taken for oneself: the one that was asked for first; null when there is none. */
export async function claimClip(database: Database): Promise<{ key: string; name: string; document: string } | null> {
  const { rows } = await database.execute<{ key: string; name: string; document: string }>(sql`
    update made_clips set state = 'running', beat = now(), tries = tries + 1
    where key = (select key from made_clips where state = 'waiting' order by asked, key limit 1 for update skip locked)
    returning key, name, document`);
  return rows[0] ?? null;
}

/** A sign of life of whoever makes a clip. */
export async function beatClip(database: Database, key: string): Promise<void> {
  await database.update(madeClips).set({ beat: new Date() }).where(eq(madeClips.key, key));
}

/** Writes down what became of a clip. A clip that was made twice, because its first worker was taken for dead, is the same both times. */
export async function finishClip(
  database: Database,
  key: string,
  ending: { readonly about: ClipAbout; readonly bytes: Uint8Array } | { readonly failure: ClipFailure },
): Promise<void> {
  await database.transaction(async (transaction) => {
    if ('failure' in ending) {
      await transaction.update(madeClips).set({ state: 'failed', failure: ending.failure }).where(eq(madeClips.key, key));
      return;
    }
    // Whoever comes second waits here, and finds it done.
    const [row] = await transaction.select({ state: madeClips.state }).from(madeClips).where(eq(madeClips.key, key)).for('update');
    if (!row || row.state === 'done') return;
    await writePieces(transaction, clipPieces(key), ending.bytes);
    await transaction.update(madeClips).set({ state: 'done', about: ending.about, failure: null }).where(eq(madeClips.key, key));
  });
}

const isDead = (table: typeof madeClips | typeof shipments) => lt(table.beat, new Date(Date.now() - DEAD_AFTER * 1000));
const GIVEN_UP = 'It was begun several times and never ended: it may be too long for this machine.';

/**
 * Mends what dead workers left: their clips and shipments wait again, or are given up when they were begun too often.
 *
 * @returns whether there is anything to do
 */
export async function sweepShipping(database: Database): Promise<boolean> {
  const failure: ClipFailure = { code: 'given-up', message: GIVEN_UP, place: {} };
  await database
    .update(madeClips)
    .set({ state: 'failed', failure })
    .where(and(eq(madeClips.state, 'running'), isDead(madeClips), sql`${madeClips.tries} >= ${MOST_TRIES}`));
  await database
    .update(madeClips)
    .set({ state: 'waiting', beat: null })
    .where(and(eq(madeClips.state, 'running'), isDead(madeClips)));
  await database
    .update(shipments)
    .set({ state: 'failed', message: GIVEN_UP, finished: new Date() })
    .where(and(eq(shipments.state, 'packing'), isDead(shipments), sql`${shipments.tries} >= ${MOST_TRIES}`));
  await database
    .update(shipments)
    .set({ state: 'making', beat: null })
    .where(and(eq(shipments.state, 'packing'), isDead(shipments)));
  const { rows } = await database.execute<{ open: boolean }>(sql`
    select exists (select 1 from made_clips where state = 'waiting') or exists (select 1 from shipments where state = 'making') as open`);
  return rows[0]?.open ?? false;
}

/** Clips that wait for nobody any more, as of a shipment that was stopped: no shipment on its way wants them. */
export async function dropUnwanted(database: Database, shipment: string): Promise<void> {
  await database.execute(sql`
    delete from made_clips where state = 'waiting' and key in (select key from ${shipmentClips} where shipment = ${shipment})
      and not exists (select 1 from ${shipmentClips} other join ${shipments} s on s.id = other.shipment
        where other.key = made_clips.key and s.state = 'making')`);
}

/** Days after which a clip that nobody has asked for is made anew when somebody does, and hours in which a document may still be wanted. */
const KEPT_DAYS = 14;
const KEPT_HOURS = 6;

/** Lets go of what nobody asks for any more: made clips with their bytes, and documents that nothing was made from. Files that were shipped stay. */
export async function pruneShipping(database: Database): Promise<void> {
  await database.transaction(async (transaction) => {
    await transaction.execute(sql`
      delete from made_clips m where state in ('done', 'failed') and asked < now() - ${`${KEPT_DAYS} days`}::interval
        and not exists (select 1 from shipment_clips c join shipments s on s.id = c.shipment where c.key = m.key and s.state in ('making', 'packing'))`);
    await transaction.execute(sql`
      delete from file_pieces where file like ${clipPieces('%')} and not exists (select 1 from made_clips m where file = ${clipPieces('')} || m.key)`);
    await transaction.execute(sql`
      delete from ship_documents d where created < now() - ${`${KEPT_HOURS} hours`}::interval
        and not exists (select 1 from made_clips m where m.document = d.hash) and not exists (select 1 from shipments s where s.document = d.hash)`);
  });
}

/** How clips of a document are written, which their kept bytes go by. */
export const waysOf = ({ lastKey, rootMotion }: ShipOptions): Pick<ShipOptions, 'lastKey' | 'rootMotion'> => ({ lastKey, rootMotion });
