import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;

/** A pool of connections to a server. */
export function connect(url: string): { database: Database; close: () => Promise<void> } {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
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
