import { randomUUID } from 'node:crypto';
import type { Report, ShipOptions } from '@lantern/motion';
import { InputError } from '@lantern/motion';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type PgBoss from 'pg-boss';
import type { ShipmentState } from '@/http/shipment';
import type { Database } from '../database';
import { madeClips, shipmentClips, shipmentFiles, shipments, shipDocuments } from './tables';
import { openDocument, projectDocument } from './document';
import { askForClips, call, dropUnwanted, keysIn } from './made-clips';

/** A shipment as it is listed. */
export interface ListedShipment {
  readonly id: string;
  readonly state: ShipmentState;
  readonly created: Date;
  readonly finished: Date | null;
  readonly done: number;
  readonly of: number;
  readonly failed: number;
  readonly ship: ShipOptions;
  readonly files: readonly { readonly path: string; readonly bytes: number; readonly hash: string }[];
  readonly written: NonNullable<Report['written']>;
  readonly message: string;
}

/**
 * Asks for a shipment of a project as it stands now.
 *
 * @returns its id; null when there is no such project
 * @throws InputError when there is nothing to ship
 */
export async function startShipment(
  database: Database,
  queue: Pick<PgBoss, 'insert'>,
  project: string,
  ship: ShipOptions,
): Promise<string | null> {
  const found = await projectDocument(database, project, ship);
  if (!found) return null;
  if (found.project.clips.length === 0) throw new InputError('empty', 'The project has no clips: cut one on the Bench first.');
  const document = openDocument(found);
  const keys = keysIn(document);
  if (keys.length === 0) throw new InputError('empty', 'All clips stay behind: choose some to ship.');
  await askForClips(database, queue, project, document, keys, true);
  const id = randomUUID();
  await database.transaction(async (transaction) => {
    const { hash, parsed, ...kept } = document;
    await transaction.insert(shipDocuments).values({ hash, project, document: kept }).onConflictDoNothing();
    await transaction.insert(shipments).values({ id, project, document: hash, ship: parsed.ship });
    for (let i = 0; i < keys.length; i += 500)
      await transaction
        .insert(shipmentClips)
        .values(keys.slice(i, i + 500).map(({ name, key }, k) => ({ shipment: id, index: i + k, name, key })));
  });
  await call(queue, 1);
  return id;
}

/** All shipments of a project, the newest first; those that were taken back are left out. */
export async function listShipments(database: Database, project: string, most = 50): Promise<ListedShipment[]> {
  const rows = await database
    .select({
      id: shipments.id,
      state: shipments.state,
      created: shipments.created,
      finished: shipments.finished,
      ship: shipments.ship,
      listed: shipments.listed,
      message: shipments.message,
    })
    .from(shipments)
    .where(and(eq(shipments.project, project), isNull(shipments.removed)))
    .orderBy(desc(shipments.created))
    .limit(most);
  const ids = rows.map(({ id }) => id);
  if (ids.length === 0) return [];
  const files = await database.select().from(shipmentFiles).where(inArray(shipmentFiles.shipment, ids)).orderBy(asc(shipmentFiles.index));
  const counts = await database
    .select({
      shipment: shipmentClips.shipment,
      of: sql<number>`count(*)::int`,
      done: sql<number>`count(*) filter (where ${madeClips.state} = 'done')::int`,
      failed: sql<number>`count(*) filter (where ${madeClips.state} = 'failed')::int`,
    })
    .from(shipmentClips)
    .leftJoin(madeClips, eq(madeClips.key, shipmentClips.key))
    .where(inArray(shipmentClips.shipment, ids))
    .groupBy(shipmentClips.shipment);
  return rows.map(({ listed, ...own }): ListedShipment => {
    const count = counts.find(({ shipment }) => shipment === own.id);
    return {
      ...own,
      done: count?.done ?? 0,
      of: count?.of ?? 0,
      failed: listed?.failed ?? count?.failed ?? 0,
      files: files.filter(({ shipment }) => shipment === own.id).map(({ path, bytes, hash }) => ({ path, bytes, hash })),
      written: listed?.written ?? [],
    };
  });
}

export async function shipmentReport(database: Database, id: string): Promise<Report | null> {
  const [row] = await database.select({ report: shipments.report }).from(shipments).where(eq(shipments.id, id));
  return row?.report ?? null;
}

/** Stops a shipment that is on its way; one that has ended is taken back. @returns what became of it; null when there is none */
export async function stopOrTakeBack(database: Database, id: string): Promise<'stopped' | 'removed' | null> {
  const [stopped] = await database
    .update(shipments)
    .set({ state: 'stopped', finished: new Date() })
    .where(and(eq(shipments.id, id), inArray(shipments.state, ['making', 'packing'] satisfies ShipmentState[])))
    .returning({ id: shipments.id });
  if (stopped) {
    await dropUnwanted(database, id);
    return 'stopped';
  }
  const [removed] = await database
    .update(shipments)
    .set({ removed: new Date() })
    .where(eq(shipments.id, id))
    .returning({ id: shipments.id });
  return removed ? 'removed' : null;
}

/** Brings a shipment back that was taken back. */
export async function bringBack(database: Database, id: string): Promise<boolean> {
  const done = await database.update(shipments).set({ removed: null }).where(eq(shipments.id, id)).returning({ id: shipments.id });
  return done.length > 0;
}

/** The last shipment of a project that arrived, before another one. */
export async function lastShipment(
  database: Database,
  project: string,
  not?: string,
): Promise<{ readonly id: string; readonly report: Report } | null> {
  const rows = await database
    .select({ id: shipments.id, report: shipments.report })
    .from(shipments)
    .where(and(eq(shipments.project, project), eq(shipments.state, 'done'), isNull(shipments.removed)))
    .orderBy(desc(shipments.created))
    .limit(2);
  const found = rows.find(({ id }) => id !== not);
  return found?.report ? { id: found.id, report: found.report } : null;
}
