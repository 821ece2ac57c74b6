import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { readinessSchema, type ReadinessInput } from '@/http/shipment';
import { until } from './waits';

interface StartOptions {
  /** Without the demo data. */
  readonly empty?: boolean;
  /** As `start` sets it: names, passphrase. */
  readonly env?: Readonly<Record<string, string>>;
}

/** The application as `start` serves it, on a database and a port of its own. */
export interface Running {
  readonly url: string;
  /** Kills the worker of the queue without warning, and starts another. */
  killWorker(): Promise<void>;
  stop(): Promise<void>;
}

const run = (command: string, args: readonly string[], env: NodeJS.ProcessEnv) =>
  new Promise<void>((resolve, reject) => {
    const child = spawn(command, args, { env, stdio: 'inherit' });
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${args[0]} ended with ${code}`))));
  });

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

function environment(base: string, database: string): NodeJS.ProcessEnv {
  const own = new URL(base);
  own.pathname = `/${database}`;
  return { ...process.env, DATABASE_URL: own.href, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' };
}

/** How a desk that nobody has changed asks what leaves. */
const FIRST_ASKED: ReadinessInput = { ship: { fps: 60, thin: { boundMm: 0.5 } } };

/** Of the lock under which databases are made and copied. */
const COPIES = 7301;

/** Lets every clip of the demo be made once as the desk first asks for it: else every copy's desk would wait for the same. */
async function measureDemo(env: NodeJS.ProcessEnv): Promise<void> {
  const { server, port } = await serve(env);
  const worker = startWorker(env);
  const origin = `http://127.0.0.1:${port}`;
  const ask = { method: 'POST', headers: { 'content-type': 'application/json', origin }, body: JSON.stringify(FIRST_ASKED) };
  await until(async () => {
    const { rows } = readinessSchema.parse(await (await fetch(`${origin}/api/projects/gullmouth/readiness`, ask)).json());
    return rows.every(({ state }) => state === 'done' || state === 'failed');
  }, 'the figures of the demo');
  await Promise.all([server, worker].map(stopped));
}

/** A database as `start` sets it up, to be copied: made once for what the program does now. */
async function setUp(admin: pg.Client, base: string, empty: boolean): Promise<string> {
  const setup = 'apps/studio/dist/setup.mjs';
  const kind = empty ? 'empty' : 'demo';
  // What sets it up, and what makes its clips.
  const made = createHash('sha256').update(readFileSync(setup)).update(readFileSync('apps/studio/dist/worker.mjs'));
  const name = `${kind}_${made.digest('hex').slice(0, 16)}`;
  const { rows } = await admin.query<{ datname: string }>('select datname from pg_database where datname like $1', [`${kind}\\_%`]);
  if (rows.some(({ datname }) => datname === name)) return name;
  for (const { datname } of rows) await admin.query(`drop database ${datname} with (force)`);
  const unfinished = `new_${name}`;
  await admin.query(`drop database if exists ${unfinished} with (force)`);
  await admin.query(`create database ${unfinished}`);
  const env = environment(base, unfinished);
  await run('node', [setup, ...(empty ? ['--empty'] : [])], env);
  if (!empty) await measureDemo(env);
  await admin.query(`alter database ${unfinished} rename to ${name}`);
  return name;
}

/** A connection that a test has not used for a while is not closed under it. */
const PATIENT = ['--keepAliveTimeout', '600000'];

/** A server that says that it is ready, on a port that was free; another program may have taken that a moment later, and then another is tried. */
async function serve(env: NodeJS.ProcessEnv): Promise<{ readonly server: ChildProcess; readonly port: number }> {
  for (let tries = 0; tries < 5; tries++) {
    const port = await freePort();
    const server = spawn(
      'node',
      [join(process.cwd(), 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port), ...PATIENT],
      {
        cwd: 'apps/studio',
        env,
        stdio: ['ignore', 'pipe', 'ignore'],
      },
    );
    const isReady = await new Promise<boolean>((resolve) => {
      server.stdout.on('data', (said: Buffer) => said.toString().includes('Ready') && resolve(true));
      server.once('exit', () => resolve(false));
    });
    if (isReady) return { server, port };
  }
  throw new Error('the application did not start on any of five ports');
}

const startWorker = (env: NodeJS.ProcessEnv): ChildProcess =>
  spawn('node', ['dist/worker.mjs'], { cwd: 'apps/studio', env, stdio: 'ignore' });

/** Ends a process and waits until it has. */
async function stopped(child: ChildProcess): Promise<void> {
  child.kill('SIGTERM');
  if (child.exitCode === null) await new Promise((resolve) => child.once('exit', resolve));
}

export async function startApplication({ empty = false, env: more = {} }: StartOptions = {}): Promise<Running> {
  const base = process.env.DATABASE_URL;
  if (!base) throw new Error('DATABASE_URL is not set: run ./lantern test');
  const name = `e2e_${randomUUID().replace(/-/g, '')}`;
  const admin = new pg.Client({ connectionString: base });
  await admin.connect();
  // Files of tests run side by side, and while a database is copied nobody else may be in it.
  await admin.query('select pg_advisory_lock($1)', [COPIES]);
  await admin.query(`create database ${name} template ${await setUp(admin, base, empty)}`);
  await admin.query('select pg_advisory_unlock($1)', [COPIES]);
  const env = { ...environment(base, name), ...more };
  const { server, port } = await serve(env);
  let worker = startWorker(env);
  const url = `http://127.0.0.1:${port}`;
  return {
    url,
    killWorker: async () => {
      worker.kill('SIGKILL');
      await new Promise((resolve) => worker.once('exit', resolve));
      worker = startWorker(env);
    },
    stop: async () => {
      await Promise.all([worker, server].map(stopped));
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
}

export const temporaryFolder = () => mkdtempSync(join(tmpdir(), 'lantern-e2e-'));
