import { savedClipSchema } from '@/http/clip';
import { dirtyClips, docOf, useClips, type ClipDoc, type SavedClip } from './clips-store';
import { fetchAs, RequestError } from './fetch-json';

const PAUSE = 350;
const RETRY = 4000;

let timer: ReturnType<typeof setTimeout> | undefined;
let running = false;

/** Saves what changed a moment after it changed; returns what ends it. */
export function startAutosave(): () => void {
  const schedule = (after: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void run(), after);
  };
  const run = async () => {
    if (running) return schedule(PAUSE);
    running = true;
    const delay = await saveAll();
    running = false;
    if (delay !== null) schedule(delay);
  };
  const unsubscribe = useClips.subscribe((now, before) => {
    if (now.docs === before.docs && now.conflicts === before.conflicts) return;
    if (dirtyClips(now).length > 0) {
      if (now.state === 'saved') useClips.setState({ state: 'unsaved' });
      schedule(PAUSE);
    } else if (now.state !== 'saving') {
      useClips.setState({ state: 'saved' });
    }
  });
  if (dirtyClips(useClips.getState()).length > 0) schedule(PAUSE);
  return () => {
    unsubscribe();
    clearTimeout(timer);
  };
}

/** Milliseconds after which to try again, or null when all is saved. */
async function saveAll(): Promise<number | null> {
  for (let ids = dirtyClips(useClips.getState()); ids.length > 0; ids = dirtyClips(useClips.getState())) {
    useClips.setState({ state: 'saving' });
    try {
      for (const id of ids) await saveOne(id);
    } catch {
      useClips.setState({ state: 'offline' });
      return RETRY;
    }
  }
  useClips.setState({ state: 'saved' });
  return null;
}

async function saveOne(id: string): Promise<void> {
  const { docs, saved, project } = useClips.getState();
  const doc = docs.find((d) => d.id === id) ?? null;
  const revision = saved[id]?.revision ?? 0;
  const url = `/api/projects/${project}/clips/${id}`;
  try {
    const row = doc
      ? await fetchAs(savedClipSchema, url, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ ...doc, revision }),
        })
      : await fetchAs(savedClipSchema, `${url}?revision=${revision}`, { method: 'DELETE' });
    note('saved', id, { revision: row.revision, doc });
  } catch (error) {
    if (!(error instanceof RequestError) || [0, 401, 421].includes(error.status) || error.status >= 500) throw error;
    // The later save is told, and nothing is overwritten: what stands on the server waits beside what is here.
    const theirs = savedClipSchema.safeParse(error.body.clip).data;
    note('conflicts', id, { revision: theirs?.revision ?? revision, doc: theirs ? docOf(theirs) : null });
  }
}

function note(where: 'saved' | 'conflicts', id: string, value: SavedClip): void {
  useClips.setState((state) => ({ [where]: { ...state[where], [id]: value } }));
}

/** Ends a conflict: with theirs, with mine over theirs, or with mine as a clip of its own. */
export function settleConflict(id: string, choice: 'theirs' | 'mine' | 'copy', copy?: ClipDoc): void {
  const { conflicts, saved, docs } = useClips.getState();
  const theirs = conflicts[id];
  if (!theirs) return;
  const { [id]: _, ...others } = conflicts;
  const mine = docs.filter((doc) => doc.id !== id);
  const withTheirs = theirs.doc ? docs.map((doc) => (doc.id === id && theirs.doc ? theirs.doc : doc)) : mine;
  useClips.setState({
    conflicts: others,
    saved: { ...saved, [id]: theirs },
    ...(choice === 'theirs' ? { docs: withTheirs } : {}),
    ...(choice === 'copy' && copy ? { docs: [...withTheirs, copy] } : {}),
  });
}
