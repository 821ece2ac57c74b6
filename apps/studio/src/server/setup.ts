import { fileURLToPath } from 'node:url';
import { count } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { connect } from './database';
import { addCast, loadDemo, makeProject } from './demo';
import { makeDemoDay } from './demo-day';
import { takes } from './schema';

// Brings a database up to date and, unless told to leave it empty, loads the demo data into one without takes. Told to make the day, it makes the captured day's project
// instead, beside a server that runs already.
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
const { database, close } = connect(url);
if (process.argv.includes('--day')) {
  if (await makeDemoDay(database)) console.log('lantern: the project of a captured day is there, its set drafted');
} else {
  await migrate(database, { migrationsFolder: fileURLToPath(new URL('../drizzle', import.meta.url)) });
  await makeProject(database);
  await addCast(database);
  const [{ held }] = await database.select({ held: count() }).from(takes);
  if (held === 0 && !process.argv.includes('--empty')) {
    console.log('lantern: loading the demo takes');
    await loadDemo(database);
  }
}
await close();
