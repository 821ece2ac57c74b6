import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { connect, type Database } from '@/server/database';
import { makeProject } from '@/server/demo';

/** A database of its own for a test file, migrated, with the project; dropped at the end. */
export async function freshDatabase(): Promise<{ database: Database; url: string; end: () => Promise<void> }> {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: run ./lantern test');
  const name = `test_${randomUUID().replace(/-/g, '')}`;
  const server = connect(url);
  await server.database.execute(sql.raw(`create database ${name}`));
  const own = new URL(url);
  own.pathname = `/${name}`;
  const { database, close } = connect(own.href);
  await migrate(database, { migrationsFolder: join(process.cwd(), 'apps/studio/drizzle') });
  await makeProject(database);
  return {
    database,
    url: own.href,
    end: async () => {
      await close();
      await server.database.execute(sql.raw(`drop database ${name} with (force)`));
      await server.close();
    },
  };
}
