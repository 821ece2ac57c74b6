import type { DocumentKind, Identified, Saved } from './document-store';
import { late } from './late';

/** Undo survives a reload, and so does what a crash kept from being saved: both lie in the browser's storage. */
const MOST_STATES = 60;

/** Fills the store from the server and, where nobody else has saved since, from what this browser kept. */
export function openDocuments<Doc extends Identified, Row extends { readonly id: string; readonly revision: number }>(
  kind: DocumentKind<Doc, Row>,
  project: string,
  rows: readonly Row[],
): void {
  const { store, docOf } = kind;
  const saved: Record<string, Saved<Doc>> = Object.fromEntries(rows.map((row) => [row.id, { revision: row.revision, doc: docOf(row) }]));
  const server = rows.map(docOf);
  const memory = readMemory(kind, project);
  const isUnchanged = memory !== null && rows.every((row) => memory.revisions[row.id] === row.revision);
  store.setState({ project, docs: memory && isUnchanged ? memory.docs : server, saved, conflicts: {}, state: 'saved' });
  store.temporal.setState(
    memory && isUnchanged ? { pastStates: memory.past, futureStates: memory.future } : { pastStates: [], futureStates: [] },
  );
}

interface Memory<Doc> {
  readonly docs: Doc[];
  readonly revisions: Readonly<Record<string, number>>;
  readonly past: { docs: Doc[] }[];
  readonly future: { docs: Doc[] }[];
}

function readMemory<Doc extends Identified, Row>({ key, readDoc }: DocumentKind<Doc, Row>, project: string): Memory<Doc> | null {
  try {
    const { docs, revisions, past, future } = late().keptSchema.parse(JSON.parse(localStorage.getItem(key(project)) ?? 'null'));
    const read = (all: readonly unknown[]): Doc[] =>
      all.map((value) => {
        const doc = readDoc(value);
        if (!doc) throw new Error('what was kept is of another time');
        return doc;
      });
    const states = (all: readonly { docs: unknown[] }[]) => all.map((own) => ({ docs: read(own.docs) }));
    return { docs: read(docs), revisions, past: states(past), future: states(future) };
  } catch {
    return null;
  }
}

/** Keeps what is needed for the next visit; returns what ends it. */
export function keepHistory<Doc extends Identified, Row>({ store, key }: DocumentKind<Doc, Row>, project: string): () => void {
  const keep = () => {
    const { docs, saved, project: open } = store.getState();
    if (open !== project) return;
    const { pastStates, futureStates } = store.temporal.getState();
    const memory = {
      docs,
      revisions: Object.fromEntries(Object.entries(saved).map(([id, { revision }]) => [id, revision])),
      past: pastStates.slice(-MOST_STATES),
      future: futureStates.slice(-MOST_STATES),
    };
    try {
      localStorage.setItem(key(project), JSON.stringify(memory));
    } catch {
      // Full or forbidden storage costs the history of a reload, nothing else.
    }
  };
  return store.subscribe((now, before) => {
    if (now.docs !== before.docs || now.saved !== before.saved) keep();
  });
}
