import type { ClipDocument } from '@lantern/motion';
import type { ClipRow } from '@/http/clip';
import { dirtyDocs, documentStore, type DocumentKind } from './document-store';
import { useJoins } from './joins-store';
import { late } from './late';

/** A clip as it is worked on. */
export type ClipDoc = ClipDocument;

export const useClips = documentStore<ClipDoc>();

export const docOf = ({ id, name, source, steps, gait, direction }: ClipRow): ClipDoc => ({
  id,
  name,
  source,
  // A step saved before it had all its parameters gets those it lacks.
  steps: steps.map((step) => late().stepSchema.parse(step)),
  gait,
  direction,
});

export const CLIPS: DocumentKind<ClipDoc, ClipRow> = {
  store: useClips,
  path: 'clips',
  field: 'clip',
  key: (project) => `old-lantern.history.${project}`,
  docOf,
  readRow: (value) => late().savedClipSchema.safeParse(value).data ?? null,
  // Histories of before clips had a source are carried over.
  readDoc: (value) => late().clipInputSchema.safeParse(value).data ?? null,
  // A clip may be cut from a join that was made a moment ago.
  waits: () => dirtyDocs(useJoins.getState()).length > 0,
};
