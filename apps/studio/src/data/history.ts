import { clipInputSchema } from '@lantern/motion';
import { z } from 'zod';
import type { ClipRow } from '@/http/clip';
import { docOf, useClips, type SavedClip } from './clips-store';

/** Undo survives a reload, and so does what a crash kept from being saved: both lie in the browser's storage. */
const MOST_STATES = 60;

const keyOf = (project: string) => `old-lantern.history.${project}`;

/** Histories of before clips had a source are carried over. */
const doc = clipInputSchema;
const state = z.object({ docs: z.array(doc) });
const kept = z.object({
  docs: z.array(doc),
  revisions: z.record(z.string(), z.number()),
  past: z.array(state),
  future: z.array(state),
});

/** Fills the store from the server and, where nobody else has saved since, from what this browser kept. */
export function openProject(project: string, rows: readonly ClipRow[]): void {
  const saved: Record<string, SavedClip> = Object.fromEntries(rows.map((row) => [row.id, { revision: row.revision, doc: docOf(row) }]));
  const server = rows.map(docOf);
  const memory = readMemory(project);
  const isUnchanged = memory !== null && rows.every((row) => memory.revisions[row.id] === row.revision);
  useClips.setState({ project, docs: memory && isUnchanged ? memory.docs : server, saved, conflicts: {}, state: 'saved' });
  useClips.temporal.setState(
    memory && isUnchanged ? { pastStates: memory.past, futureStates: memory.future } : { pastStates: [], futureStates: [] },
  );
}

type Memory = z.infer<typeof kept>;

function readMemory(project: string): Memory | null {
  try {
    const parsed = kept.safeParse(JSON.parse(localStorage.getItem(keyOf(project)) ?? 'null'));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
}

/** Keeps what is needed for the next visit; returns what ends it. */
export function keepHistory(project: string): () => void {
  const keep = () => {
    const { docs, saved, project: open } = useClips.getState();
    if (open !== project) return;
    const { pastStates, futureStates } = useClips.temporal.getState();
    const memory = {
      docs,
      revisions: Object.fromEntries(Object.entries(saved).map(([id, { revision }]) => [id, revision])),
      past: pastStates.slice(-MOST_STATES),
      future: futureStates.slice(-MOST_STATES),
    };
    try {
      localStorage.setItem(keyOf(project), JSON.stringify(memory));
    } catch {
      // Full or forbidden storage costs the history of a reload, nothing else.
    }
  };
  return useClips.subscribe((now, before) => {
    if (now.docs !== before.docs || now.saved !== before.saved) keep();
  });
}
