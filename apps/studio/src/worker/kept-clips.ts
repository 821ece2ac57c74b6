import type { Clip, ClipTraits, Motion } from '@lantern/motion';
import { clear, createStore, get, keys, set, type UseStore } from 'idb-keyval';

/** A clip that was run and measured. */
export interface MadeClip {
  readonly clip: Clip;
  readonly traits: ClipTraits;
}

/** Clips that are kept at the most, about 100 kB each; beyond them all are let go, and kept anew as they are wanted. */
const MOST_KEPT = 3000;
/** An older program's page may hold up a deletion, and what is asked after it: longer than this nobody waits, milliseconds. */
const LONGEST = 1500;
const PREFIX = 'old-lantern clips ';

/**
 * Clips that were run, kept by the browser from one visit to the next: a set opens without running its recipes again. Where the browser keeps
 * nothing (a private window, a full disk), everything is as if nothing had been kept.
 *
 * @param program which one makes them: what another one made is deleted; null where nothing is to be kept
 */
export function keptClips(program: string | null) {
  let opening: Promise<UseStore | null> | undefined;
  const store = () => (opening ??= within(LONGEST, open(program)).catch(() => null));
  return {
    /** Whether anything can be kept at all. */
    canKeep: async () => (await store()) !== null,
    async find(key: string): Promise<MadeClip | undefined> {
      const own = await store();
      return own ? get<MadeClip>(await digest(key), own).catch(() => undefined) : undefined;
    },
    async keep(key: string, clip: MadeClip): Promise<void> {
      const own = await store();
      if (own) await set(await digest(key), { ...clip, clip: compact(clip.clip) }, own).catch(() => {});
    },
  };
}

async function open(program: string | null): Promise<UseStore | null> {
  // Digests are missing where the page came over the network without a certificate.
  if (program === null || typeof indexedDB === 'undefined' || !globalThis.crypto?.subtle) return null;
  const name = PREFIX + (await digest(program));
  for (const other of await indexedDB.databases()) {
    if (other.name?.startsWith(PREFIX) && other.name !== name) indexedDB.deleteDatabase(other.name);
  }
  const store = createStore(name, 'clips');
  if ((await keys(store)).length > MOST_KEPT) await clear(store);
  return store;
}

function within<T>(ms: number, promise: Promise<T>): Promise<T | null> {
  let timer: ReturnType<typeof setTimeout>;
  const over = new Promise<null>((resolve) => (timer = setTimeout(() => resolve(null), ms)));
  return Promise.race([promise, over]).finally(() => clearTimeout(timer));
}

/** SHA-256 in hexadecimal digits. */
export async function digest(content: string | BufferSource): Promise<string> {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  return [...new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** The same clip with lists of its own: one that is a part of a whole take's would be kept with all of that. */
function compact(clip: Clip): Clip {
  const way = ({ x, y, z, heading }: NonNullable<Clip['way']>) => ({ x: x.slice(), y: y.slice(), z: z.slice(), heading: heading.slice() });
  return {
    ...clip,
    motion: own(clip.motion),
    lead: clip.lead && own(clip.lead),
    tail: clip.tail && own(clip.tail),
    travel: clip.travel && way(clip.travel),
    ...(clip.way && { way: way(clip.way) }),
    ...(clip.belt && { belt: { x: clip.belt.x.slice(), z: clip.belt.z.slice() } }),
  };
}

const own = (motion: Motion): Motion => ({
  ...motion,
  rotations: motion.rotations.slice(),
  rootPositions: motion.rootPositions.slice(),
  ...(motion.translations && { translations: new Map([...motion.translations].map(([joint, list]) => [joint, list.slice()])) }),
});
