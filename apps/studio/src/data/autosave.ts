import { dirtyDocs, type DocumentKind, type Identified, type Saved } from './document-store';
import { asJson, fetchAs, RequestError } from './fetch-json';
import { late } from './late';

const PAUSE = 350;
const RETRY = 4000;
/** So often what is left is tried once nobody is there any more; then it waits in this browser for the next visit. */
const LAST_TRIES = 4;

/** Saves what changed a moment after it changed; returns what ends it, which saves what is not saved yet at once. */
export function startAutosave<Doc extends Identified, Row>(kind: DocumentKind<Doc, Row>): () => void {
  const { store } = kind;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;
  let tries = Infinity;
  const schedule = (after: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void run(), after);
  };
  const run = async () => {
    if (running) return schedule(PAUSE);
    running = true;
    const delay = await saveAll(kind);
    running = false;
    if (delay !== null && --tries > 0) schedule(delay);
  };
  const unsubscribe = store.subscribe((now, before) => {
    if (now.docs === before.docs && now.conflicts === before.conflicts) return;
    if (dirtyDocs(now).length > 0) {
      if (now.state === 'saved') store.setState({ state: 'unsaved' });
      schedule(PAUSE);
    } else if (now.state !== 'saving') {
      store.setState({ state: 'saved' });
    }
  });
  if (dirtyDocs(store.getState()).length > 0) schedule(PAUSE);
  return () => {
    unsubscribe();
    clearTimeout(timer);
    tries = LAST_TRIES;
    if (dirtyDocs(store.getState()).length > 0) void run();
  };
}

/** Milliseconds after which to try again, or null when all is saved. */
async function saveAll<Doc extends Identified, Row>(kind: DocumentKind<Doc, Row>): Promise<number | null> {
  const { store } = kind;
  if (kind.waits?.()) return PAUSE;
  // Another project may be opened while a save is on its way: what is told of it is not told of that one.
  const { project } = store.getState();
  const isOpen = () => store.getState().project === project;
  for (let ids = dirtyDocs(store.getState()); ids.length > 0; ids = dirtyDocs(store.getState())) {
    store.setState({ state: 'saving' });
    try {
      for (const id of ids) if (isOpen()) await saveOne(kind, id, isOpen);
    } catch {
      if (isOpen()) store.setState({ state: 'offline' });
      return RETRY;
    }
    if (!isOpen()) return null;
  }
  store.setState({ state: 'saved' });
  return null;
}

async function saveOne<Doc extends Identified, Row>(
  { store, path, field, docOf, readRow }: DocumentKind<Doc, Row>,
  id: string,
  isOpen: () => boolean,
): Promise<void> {
  const { docs, saved, project } = store.getState();
  const doc = docs.find((d) => d.id === id) ?? null;
  const revision = saved[id]?.revision ?? 0;
  const url = `/api/projects/${project}/${path}/${id}`;
  const note = (where: 'saved' | 'conflicts', value: Saved<Doc>) => {
    if (isOpen()) store.setState((state) => ({ [where]: { ...state[where], [id]: value } }));
  };
  try {
    const row = doc
      ? await fetchAs(late().revisedSchema, url, asJson('PUT', { ...doc, revision }))
      : await fetchAs(late().revisedSchema, `${url}?revision=${revision}`, { method: 'DELETE' });
    note('saved', { revision: row.revision, doc });
  } catch (error) {
    if (!(error instanceof RequestError) || [0, 401, 421].includes(error.status) || error.status >= 500) throw error;
    // The later save is told, and nothing is overwritten: what stands on the server waits beside what is here.
    const theirs = readRow(error.body[field]);
    note('conflicts', { revision: theirs?.revision ?? revision, doc: theirs ? docOf(theirs) : null });
  }
}

/** Ends a conflict: with theirs, with mine over theirs, or with mine as a document of its own. */
export function settleConflict<Doc extends Identified, Row>(
  { store }: DocumentKind<Doc, Row>,
  id: string,
  choice: 'theirs' | 'mine' | 'copy',
  copy?: Doc,
): void {
  const { conflicts, saved, docs } = store.getState();
  const theirs = conflicts[id];
  if (!theirs) return;
  const { [id]: _, ...others } = conflicts;
  const mine = docs.filter((doc) => doc.id !== id);
  const withTheirs = theirs.doc ? docs.map((doc) => (doc.id === id && theirs.doc ? theirs.doc : doc)) : mine;
  store.setState({
    conflicts: others,
    saved: { ...saved, [id]: theirs },
    ...(choice === 'theirs' ? { docs: withTheirs } : {}),
    ...(choice === 'copy' && copy ? { docs: [...withTheirs, copy] } : {}),
  });
}
