import type { SetDoc, SetRow } from '@/http/set';
import { useClips } from './clips-store';
import { dirtyDocs, documentStore, type DocumentKind } from './document-store';
import { late } from './late';

export type { FieldDoc, SetDoc } from '@/http/set';

export const useSets = documentStore<SetDoc>();

export const SETS: DocumentKind<SetDoc, SetRow> = {
  store: useSets,
  path: 'sets',
  field: 'set',
  key: (project) => `old-lantern.sets.${project}`,
  docOf: ({ project: _, revision: __, updated: ___, ...doc }) => doc,
  readRow: (value) => late().savedSetSchema.safeParse(value).data ?? null,
  readDoc: (value) => late().setDocumentSchema.safeParse(value).data ?? null,
  // Pins and fields name clips that may have been made a moment ago.
  waits: () => dirtyDocs(useClips.getState()).length > 0,
};

/** Changes a set; one step of undo. */
export function editSet(doc: SetDoc, change: Partial<SetDoc>): void {
  useSets.getState().put({ ...doc, ...change });
}
