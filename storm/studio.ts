import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync, readdirSync } from 'node:fs';
import { createServer } from 'node:net';

/** What can be killed: the server, the worker of the queue, the database, or everything down to the command that started it. */
export const VICTIMS = ['server', 'worker', 'database', 'all'] as const;
export type Victim = (typeof VICTIMS)[number];

interface Process {
  readonly pid: number;
  readonly parent: number;
  readonly command: string;
}

/** An answer, or why there is none. */
export interface Answer {
  readonly status: number;
  readonly body: unknown;
}

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** The application as people start it, on a database of its own, with a hand on everything that runs. */
export class Studio {
  private process: ChildProcess | null = null;
  private constructor(readonly port: number) {}

  static async start(): Promise<Studio> {
    const studio = new Studio(await freePort());
    studio.launch();
    await studio.ready(300_000);
    return studio;
  }

  private launch(): void {
    const { DATABASE_URL: _, ...env } = process.env;
    this.process = spawn('./lantern', ['start', '--port', String(this.port), '--empty'], {
      env: { ...env, LANTERN_CLUSTER: 'storm' },
      stdio: 'ignore',
      detached: true,
    });
  }

  /** Milliseconds until the application answers and can reach its database. */
  async ready(most = 60_000): Promise<number> {
    const begun = performance.now();
    while (performance.now() - begun < most) {
      // A start that has given up is started again, as whoever watches over it would.
      if (this.process?.exitCode !== null || this.process.signalCode !== null) this.launch();
      const { status } = await this.ask('GET', '/api/projects/gullmouth');
      if (status === 200) return performance.now() - begun;
      await wait(100);
    }
    throw new Error(`the application did not answer for ${most / 1000} seconds`);
  }

  /** Asks the server; status 0 where it did not answer. */
  async ask(method: string, path: string, body?: Uint8Array | object): Promise<Answer> {
    const url = `http://127.0.0.1:${this.port}`;
    try {
      const sent = body === undefined ? null : body instanceof Uint8Array ? new Uint8Array(body) : JSON.stringify(body);
      const response = await fetch(url + path, { method, body: sent, headers: { origin: url }, signal: AbortSignal.timeout(60_000) });
      const isJson = response.headers.get('content-type')?.includes('json');
      return { status: response.status, body: isJson ? await response.json() : new Uint8Array(await response.arrayBuffer()) };
    } catch {
      return { status: 0, body: null };
    }
  }

  /** Kills without warning. @returns whether there was somebody to kill */
  kill(victim: Victim): boolean {
    const root = this.process?.pid ?? -1;
    const all = processes();
    const own = below(all, root);
    const database = all.filter(({ command }) => /postgres.*-D \S*-storm\/db/.test(command) && !/runuser|pg_ctl/.test(command));
    const found =
      victim === 'database'
        ? database
        : victim === 'server'
          ? own.filter(({ command }) => /next-server|next start|bin\/next/.test(command))
          : victim === 'worker'
            ? own.filter(({ command }) => /dist\/worker\.mjs/.test(command))
            : [...own, ...all.filter(({ pid }) => pid === root), ...database];
    for (const { pid } of found) {
      try {
        process.kill(pid, 'SIGKILL');
      } catch {
        // It has ended by itself meanwhile.
      }
    }
    return found.length > 0;
  }

  async end(): Promise<void> {
    const { process: own } = this;
    if (!own?.pid || own.exitCode !== null) return;
    process.kill(own.pid, 'SIGTERM');
    await Promise.race([new Promise((resolve) => own.once('exit', resolve)), wait(20_000)]);
  }
}

/** Everything that runs on this machine. */
function processes(): Process[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name): Process[] => {
      try {
        const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
        const parent = Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
        return [{ pid: Number(name), parent, command: readFileSync(`/proc/${name}/cmdline`, 'utf8').replaceAll('\0', ' ') }];
      } catch {
        return [];
      }
    });
}

function below(all: readonly Process[], root: number): Process[] {
  const children = all.filter(({ parent }) => parent === root);
  return children.flatMap((child) => [child, ...below(all, child.pid)]);
}
