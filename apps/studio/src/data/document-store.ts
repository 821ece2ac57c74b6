import { temporal } from 'zundo';
import { create } from 'zustand';

/** What is worked on, kept and saved as a whole: a clip, a join. */
export interface Identified {
  readonly id: string;
  readonly name: string;
}

/** What the server has of a document, and at which revision. */
export interface Saved<Doc> {
  readonly revision: number;
  /** Null: removed there. */
  readonly doc: Doc | null;
}

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline';

export interface DocumentsState<Doc> {
  readonly project: string | null;
  /** In the order in which they were made. Only this is in the history. */
  readonly docs: readonly Doc[];
  readonly saved: Readonly<Record<string, Saved<Doc>>>;
  readonly conflicts: Readonly<Record<string, Saved<Doc>>>;
  readonly state: SaveState;
  put(doc: Doc): void;
  remove(id: string): void;
}

/** Documents of one kind, with their history. */
export function documentStore<Doc extends Identified>() {
  return create<DocumentsState<Doc>>()(
    temporal(
      (set) => ({
        project: null,
        docs: [],
        saved: {},
        conflicts: {},
        state: 'saved',
        put: (doc) =>
          set(({ docs }) => ({ docs: docs.some((d) => d.id === doc.id) ? docs.map((d) => (d.id === doc.id ? doc : d)) : [...docs, doc] })),
        remove: (id) => set(({ docs }) => ({ docs: docs.filter((doc) => doc.id !== id) })),
      }),
      { partialize: ({ docs }) => ({ docs }), equality: (a, b) => a.docs === b.docs, limit: 200 },
    ),
  );
}
export type DocumentStore<Doc extends Identified> = ReturnType<typeof documentStore<Doc>>;

/** A kind of documents: where they are kept here, where the server has them, and how its rows are read. */
export interface DocumentKind<Doc extends Identified, Row> {
  readonly store: DocumentStore<Doc>;
  /** The last part of the address but the id; and what a refusal calls what stands there. */
  readonly path: string;
  readonly field: string;
  /** Where the browser keeps them. */
  readonly key: (project: string) => string;
  readonly docOf: (row: Row) => Doc;
  /** A row of the server, or a document that this browser kept; null where it is none. */
  readonly readRow: (value: unknown) => (Row & { readonly id: string; readonly revision: number }) | null;
  readonly readDoc: (value: unknown) => Doc | null;
  /** What these documents rest on is not saved yet: they wait for it. */
  readonly waits?: () => boolean;
}

export const sameDoc = <Doc>(a: Doc | null, b: Doc | null): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Ids whose document differs from what the server has, and is not in conflict. */
export function dirtyDocs<Doc extends Identified>({
  docs,
  saved,
  conflicts,
}: Pick<DocumentsState<Doc>, 'docs' | 'saved' | 'conflicts'>): string[] {
  const ids = new Set([...docs.map((doc) => doc.id), ...Object.keys(saved)]);
  return [...ids].filter((id) => !conflicts[id] && !sameDoc(docs.find((doc) => doc.id === id) ?? null, saved[id]?.doc ?? null));
}
