import { stepSchema, type ClipDocument } from '@lantern/motion';
import { temporal } from 'zundo';
import { create } from 'zustand';
import type { ClipRow } from '@/http/clip';

/** A clip as it is worked on. */
export type ClipDoc = ClipDocument;

/** What the server has of a clip, and at which revision. */
export interface SavedClip {
  readonly revision: number;
  /** Null: removed there. */
  readonly doc: ClipDoc | null;
}

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline';

interface ClipsState {
  readonly project: string | null;
  /** In the order in which they were made. Only this is in the history. */
  readonly docs: readonly ClipDoc[];
  readonly saved: Readonly<Record<string, SavedClip>>;
  readonly conflicts: Readonly<Record<string, SavedClip>>;
  readonly state: SaveState;
  put(doc: ClipDoc): void;
  remove(id: string): void;
}

export const useClips = create<ClipsState>()(
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

export const docOf = ({ id, name, source, steps, gait, direction }: ClipRow): ClipDoc => ({
  id,
  name,
  source,
  // A step saved before it had all its parameters gets those it lacks.
  steps: steps.map((step) => stepSchema.parse(step)),
  gait,
  direction,
});

export const sameDoc = (a: ClipDoc | null, b: ClipDoc | null): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Ids whose document differs from what the server has, and is not in conflict. */
export function dirtyClips({ docs, saved, conflicts }: Pick<ClipsState, 'docs' | 'saved' | 'conflicts'>): string[] {
  const ids = new Set([...docs.map((doc) => doc.id), ...Object.keys(saved)]);
  return [...ids].filter((id) => !conflicts[id] && !sameDoc(docs.find((doc) => doc.id === id) ?? null, saved[id]?.doc ?? null));
}
