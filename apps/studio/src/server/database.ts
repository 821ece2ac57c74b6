import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { log } from './log';
import * as schema from './schema';
import { toLog } from './trouble';

export type Database = NodePgDatabase<typeof schema>;

/** A request waits so long for a connection, then it is told that the database is away, ms. */
const CONNECT_MS = 10_000;

/** A pool of connections to a server. @param most connections */
export function connect(url: string, most = 10): { database: Database; close: () => Promise<void> } {
  const pool = new pg.Pool({ connectionString: url, max: most, connectionTimeoutMillis: CONNECT_MS });
  // A connection that lies idle and dies is made anew when it is wanted; without a listener it would end the process.
  pool.on('error', (error) => log.warn(toLog(error), 'a database connection was lost'));
  return { database: drizzle(pool, { schema }), close: () => pool.end() };
}

const shared = globalThis as typeof globalThis & { lanternDatabase?: Database };

/** The server's one pool; kept across reloads in development. */
export function database(): Database {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set');
  shared.lanternDatabase ??= connect(url).database;
  return shared.lanternDatabase;
}
