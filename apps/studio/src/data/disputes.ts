import { create } from 'zustand';
import { RequestError } from './fetch-json';

/** A value that was changed here and, meanwhile, elsewhere. */
export interface DisputedField {
  readonly name: string;
  readonly mine: unknown;
  readonly theirs: unknown;
}

export interface Dispute {
  /** What it is about, in words: a take, a fit. */
  readonly what: string;
  readonly fields: readonly DisputedField[];
  settle(choice: 'mine' | 'theirs'): void;
}

/** Changes that wait for somebody to say which of two holds; the first is asked about. */
export const useDisputes = create<{ readonly open: readonly Dispute[] }>(() => ({ open: [] }));

/** Asks which of two changes holds; until it is answered nothing is overwritten. */
export function askAbout(what: string, fields: readonly DisputedField[]): Promise<'mine' | 'theirs'> {
  return new Promise((resolve) => {
    const dispute: Dispute = {
      what,
      fields,
      settle: (choice) => {
        useDisputes.setState(({ open }) => ({ open: open.filter((other) => other !== dispute) }));
        resolve(choice);
      },
    };
    useDisputes.setState(({ open }) => ({ open: [...open, dispute] }));
  });
}

type Values = Readonly<Record<string, unknown>>;

/**
 * Sends a change; where somebody else changed the same meanwhile, asks whose holds.
 *
 * @param send sends the change as made on what it is given, which is what stood here or, after a dispute, what stands there
 * @param stands reads what stands there from the answer that says so
 * @returns the answer, or null where theirs was taken
 */
export async function sendOrAsk<T>(
  what: string,
  change: Values,
  before: Values,
  send: (before: Values) => Promise<T>,
  stands: (body: Values) => Values,
): Promise<T | null> {
  try {
    return await send(before);
  } catch (error) {
    if (!(error instanceof RequestError) || error.status !== 409 || error.body.code !== 'conflict') throw error;
    const theirs = stands(error.body);
    const names = Array.isArray(error.body.fields) ? error.body.fields.map(String) : Object.keys(change);
    const choice = await askAbout(
      what,
      names.map((name) => ({ name, mine: change[name], theirs: theirs[name] })),
    );
    if (choice === 'theirs') return null;
    const now = Object.fromEntries(Object.keys({ ...before, ...change }).map((key) => [key, theirs[key]]));
    return sendOrAsk(what, change, now, send, stands);
  }
}
