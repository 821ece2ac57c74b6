import { createHmac, randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { networkInterfaces } from 'node:os';

/**
 * Who is let in: by which names the application may be called, and, beyond this machine, with which passphrase. A page of another name that
 * resolves to this machine is told nothing, for reading either.
 */
export interface Guard {
  readonly hosts: ReadonlySet<string>;
  /** Null where only this machine can reach the application: then nobody is asked. */
  readonly passphrase: string | null;
}

/** What is said to a request under another name. */
export const NOT_SERVED = 'The application is not served under this name; names are added with --host when it is started.';

const LOOPBACK = ['localhost', '127.0.0.1', '::1'];
const SESSION_HOURS = 12;
export const SESSION_COOKIE = 'lantern_session';

/** Whether an address is this machine's own, reached by nobody else. */
export const isLoopback = (address: string): boolean => address === 'localhost' || address === '::1' || /^127(\.\d{1,3}){3}$/.test(address);

/**
 * The guard that the start command asked for: `LANTERN_LISTEN` is the address it listens on, `LANTERN_HOSTS` further names, separated by
 * commas, `LANTERN_PASSPHRASE` the passphrase.
 *
 * @example
 * guardOf({ LANTERN_HOSTS: 'quay.local' }).hosts.has('quay.local'); // true
 */
export function guardOf(env: Readonly<Record<string, string | undefined>> = process.env): Guard {
  const listens = env.LANTERN_LISTEN ?? '127.0.0.1';
  const isEverywhere = listens === '0.0.0.0' || listens === '::';
  const own = Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map(({ address }) => address));
  const named = (env.LANTERN_HOSTS ?? '').split(',').map((name) => name.trim());
  const hosts = [...LOOPBACK, ...(isEverywhere ? own : [listens]), ...named].filter(Boolean).map((name) => name.toLowerCase());
  return { hosts: new Set(hosts), passphrase: env.LANTERN_PASSPHRASE || null };
}

/** Whether a request's Host is a name of ours, whatever its port. */
export function isServed(host: string | null, { hosts }: Pick<Guard, 'hosts'>): boolean {
  if (!host || !URL.canParse(`http://${host}`)) return false;
  return hosts.has(new URL(`http://${host}`).hostname.replace(/^\[|\]$/g, '').toLowerCase());
}

const shared = globalThis as typeof globalThis & { lanternSecret?: Buffer };
/** Sessions end with the process that began them. */
const secret = () => (shared.lanternSecret ??= Buffer.from(process.env.LANTERN_SECRET ?? randomBytes(32).toString('hex')));

const signed = (ends: string) => `${ends}.${createHmac('sha256', secret()).update(ends).digest('base64url')}`;
const isSame = (a: string | Buffer, b: string | Buffer) => {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
};

/** A session of some hours, as the cookie has it. */
export const newSession = (now = Date.now()): string => signed(String(now + SESSION_HOURS * 3_600_000));

/** Whether a request carries a session of this process that has not ended; always true where nobody is asked. */
export function hasSession(cookies: string | null, { passphrase }: Pick<Guard, 'passphrase'>, now = Date.now()): boolean {
  if (passphrase === null) return true;
  const held = (cookies ?? '')
    .split(';')
    .map((part) => part.trim())
    .find((part) => part.startsWith(`${SESSION_COOKIE}=`))
    ?.slice(SESSION_COOKIE.length + 1);
  const ends = held?.split('.')[0] ?? '';
  return held !== undefined && Number(ends) > now && isSame(held, signed(ends));
}

const stretched = (text: string) => scryptSync(text.normalize('NFKC'), 'old lantern', 32);

/** Whether it is the passphrase; takes as long either way. */
export const isPassphrase = (said: string, { passphrase }: Pick<Guard, 'passphrase'>): boolean =>
  passphrase !== null && isSame(stretched(said), stretched(passphrase));

/** Wrong tries that are allowed in a while, over all who try. */
const MOST_TRIES = 6;
const WHILE = 60_000;

/** Counts tries: after some wrong ones everybody waits. Shared by all who ask, because an address is easily changed. */
export class Tries {
  private wrong: number[] = [];

  /** Seconds to wait before the next try; 0 when it may be made. */
  wait(now = Date.now()): number {
    this.wrong = this.wrong.filter((at) => now - at < WHILE);
    return this.wrong.length < MOST_TRIES ? 0 : Math.ceil((this.wrong[0] + WHILE - now) / 1000);
  }

  failed(now = Date.now()): void {
    this.wrong.push(now);
  }
}
