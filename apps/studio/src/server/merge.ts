import { isDeepStrictEqual } from 'node:util';

/** What came of a change that was made on what stood there some time ago. */
export type Merged<T> =
  { readonly outcome: 'merged'; readonly value: T } | { readonly outcome: 'conflict'; readonly fields: readonly string[] };

type Fields = Readonly<Record<string, unknown>>;

/**
 * Puts a change onto what stands now. A field that the change leaves as it was stays as it is; one that nobody else has changed takes the
 * new value. Lists of words, and of records told apart by `id` or `frame`, take what was added and lose what was taken out, whoever else
 * changed them. Anything else that was changed on both sides is a conflict: nothing is overwritten.
 *
 * @param before what the change was made on; without it the change is put there whatever stands
 * @example
 * merged({ tags: ['a', 'c'] }, { tags: ['a'] }, { tags: ['a', 'b'] }); // { outcome: 'merged', value: { tags: ['a', 'c', 'b'] } }
 */
export function merged<T extends object>(current: T, before: Partial<T> | undefined, after: Partial<T>): Merged<Partial<T>> {
  const [now, then, next] = [current as Fields, before as Fields | undefined, after as Fields];
  const value: Record<string, unknown> = {};
  const fields: string[] = [];
  for (const key of Object.keys(next)) {
    // What the change leaves as it was is nobody's business.
    if (then !== undefined && key in then && same(then[key], next[key])) continue;
    const isFree = then === undefined || !(key in then) || same(now[key], then[key]) || same(now[key], next[key]);
    const joined = isFree ? { list: next[key] } : joinedLists(now[key], then[key], next[key]);
    if (joined) value[key] = joined.list;
    else fields.push(key);
  }
  return fields.length > 0 ? { outcome: 'conflict', fields } : { outcome: 'merged', value: value as Partial<T> };
}

/** As JSON has it: fields that are undefined are not there. */
const same = (a: unknown, b: unknown) => isDeepStrictEqual(plain(a), plain(b));
const plain = (value: unknown): unknown => (value === undefined ? undefined : JSON.parse(JSON.stringify(value)));

/** The name of an entry of a list, or null when it has none. */
function nameOf(entry: unknown): string | null {
  if (typeof entry === 'string') return entry;
  if (typeof entry !== 'object' || entry === null) return null;
  const { id, frame } = entry as { id?: unknown; frame?: unknown };
  return id !== undefined ? `id ${String(id)}` : frame !== undefined ? `frame ${String(frame)}` : null;
}

/** Three lists into one, entry by entry; null when they cannot be told apart, or both sides changed the same entry. */
function joinedLists(now: unknown, then: unknown, next: unknown): { list: unknown[] } | null {
  if (![now, then, next].every(Array.isArray)) return null;
  const [here, was, asked] = [now, then, next].map((list) => new Map((list as unknown[]).map((entry) => [nameOf(entry), entry])));
  if ([here, was, asked].some((list) => list.has(null))) return null;
  const out = new Map(here);
  for (const name of new Set([...was.keys(), ...asked.keys()])) {
    if (same(asked.get(name), was.get(name))) continue;
    if (!same(here.get(name), was.get(name)) && !same(here.get(name), asked.get(name))) return null;
    if (asked.has(name)) out.set(name, asked.get(name));
    else out.delete(name);
  }
  return { list: [...out.values()] };
}
