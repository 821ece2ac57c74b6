/** What went wrong below a request, as far as it is anybody's business. */
export interface Trouble {
  readonly status: 400 | 500 | 503;
  readonly code: string;
  /** A sentence for people. */
  readonly message: string;
}

/** Codes of a database that is away, shutting down or full of connections, and of a network without it. */
const AWAY = /^(08...|57P0[123]|53300|ECONNREFUSED|ECONNRESET|ETIMEDOUT|EPIPE|ENOENT)$/;
const AWAY_WORDS = /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error|not queryable/;
/** Values that no column takes: a number out of range, a text with a zero byte, what is no number or date. */
const UNFIT = /^22...$/;

const chain = (error: unknown): { readonly code?: unknown; readonly message?: unknown }[] => {
  const out = [];
  for (let at = error, deep = 0; typeof at === 'object' && at !== null && deep < 6; at = (at as Error).cause, deep++) out.push(at);
  return out;
};

const codesOf = (error: unknown) => chain(error).flatMap(({ code }) => (typeof code === 'string' ? [code] : []));

/** Whether the database, or the way to it, is away: what was asked may be asked again. */
export const isAway = (error: unknown): boolean =>
  codesOf(error).some((code) => AWAY.test(code)) ||
  chain(error).some(({ message }) => typeof message === 'string' && !message.startsWith('Failed query') && AWAY_WORDS.test(message));

/** @example troubleOf(Object.assign(new Error(''), { code: 'ECONNREFUSED' })).status; // 503 */
export function troubleOf(error: unknown): Trouble {
  if (isAway(error)) {
    return { status: 503, code: 'away', message: 'The database is away for a moment; nothing was changed. It is tried again by itself.' };
  }
  if (codesOf(error).some((code) => UNFIT.test(code))) {
    return {
      status: 400,
      code: 'request',
      message: 'Something in the request cannot be stored: a number too large, or a sign that is no text.',
    };
  }
  return { status: 500, code: 'ours', message: 'Something went wrong on our side; nothing was changed.' };
}

/** The most of a message that is written down, signs. */
const MOST_WORDS = 300;

/**
 * An error as it is written down: what and where, never the values of a query. These may be a whole file.
 *
 * @example
 * log.error(toLog(error), 'request failed');
 */
export function toLog(error: unknown): Readonly<Record<string, unknown>> {
  const all = chain(error).map((one) => {
    const { name, message, code, query } = one as { name?: unknown; message?: unknown; code?: unknown; query?: unknown };
    // The message of a failed query has its values in it.
    const words = typeof query === 'string' ? `Failed query: ${query}` : String(message);
    return { name, code, message: words.slice(0, MOST_WORDS) };
  });
  const stack = error instanceof Error && typeof (error as { query?: unknown }).query !== 'string' ? error.stack : undefined;
  return { errors: all.length > 0 ? all : String(error).slice(0, MOST_WORDS), ...(stack && { stack: stack.slice(0, 2000) }) };
}
