'use client';
import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useMemo } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { TakePatch } from '@lantern/motion';
import { CLIPS, useClips, type ClipDoc } from './clips-store';
import { sendOrAsk } from './disputes';
import { fetchAs, fetchJson, RequestError } from './fetch-json';
import { openDocuments } from './history';
import { JOINS } from './joins-store';
import { inOrder } from './in-order';
import { projectKey, useProjectInfo, type ProjectData, type TakeInfo } from './project';
import { late } from './late';

/** What stands beside a take, before or after an edit; `removed` takes it out of the list. */
export interface TakeState extends TakePatch {
  readonly removed?: boolean;
}

export interface TakeChange {
  readonly id: string;
  readonly before: TakeState;
  readonly after: TakeState;
}

interface TakeEdit {
  readonly label: string;
  readonly changes: readonly TakeChange[];
  /** Clips that are cut from another take with it. */
  readonly clips?: readonly ClipChange[];
}

/** Where a clip is cut and what its steps say of frames, before and after an edit of takes. */
export interface ClipChange {
  readonly id: string;
  readonly before: ClipCut;
  readonly after: ClipCut;
}

type ClipCut = Pick<ClipDoc, 'source' | 'steps'>;

interface TakeEditsState {
  readonly project: string | null;
  readonly past: readonly TakeEdit[];
  readonly future: readonly TakeEdit[];
  /** Takes being measured anew. */
  readonly busy: readonly string[];
}

/** Somebody else's change was taken in place of the one made here: no fault, but the edit has not happened. */
class TheirsTaken extends Error {}

const MOST_EDITS = 100;
const saves = inOrder();

/** The history of the Takes place; plain data, kept in the browser so that undo survives a reload. */
export const useTakeHistory = create<TakeEditsState>()(
  persist((): TakeEditsState => ({ project: null, past: [], future: [], busy: [] }), {
    name: 'old-lantern.take-edits',
    partialize: ({ project, past, future }) => ({ project, past, future }),
    // Edits of before clips had a source cannot be undone: they go.
    version: 1,
    migrate: () => ({ project: null, past: [], future: [], busy: [] }),
  }),
);

async function put(client: QueryClient, project: string, changes: readonly TakeChange[], side: 'before' | 'after'): Promise<void> {
  const key = projectKey(project);
  const set = (change: (takes: readonly TakeInfo[]) => readonly TakeInfo[]) =>
    client.setQueryData<ProjectData>(key, (data) => data && { ...data, takes: change(data.takes) });
  let refetch = false;
  for (const change of changes) {
    const { removed, ...patch } = change[side];
    const { removed: _, ...before } = change[side === 'after' ? 'before' : 'after'];
    const url = `/api/takes/${change.id}`;
    if (removed === true) {
      await fetchJson(url, { method: 'DELETE' });
      set((takes) => takes.filter((take) => take.id !== change.id));
      continue;
    }
    if (removed === false) {
      await fetchJson(url, { method: 'PUT' });
      refetch = true;
      continue;
    }
    const isMeasured = patch.overrides !== undefined;
    // What needs no measuring is on the screen at once.
    if (!isMeasured) set((takes) => takes.map((take) => (take.id === change.id ? { ...take, ...patch } : take)));
    else useTakeHistory.setState(({ busy }) => ({ busy: [...busy, change.id] }));
    try {
      const name = client.getQueryData<ProjectData>(key)?.takes.find((take) => take.id === change.id)?.name ?? 'a take';
      const send = (from: object) =>
        fetchAs(late().takeInfoSchema, url, { method: 'PATCH', body: JSON.stringify({ ...patch, before: from }) });
      const stored = await sendOrAsk(`“${name}”`, patch, before, send, ({ take }) => take as TakeInfo & Readonly<Record<string, unknown>>);
      if (!stored) throw new TheirsTaken();
      const held = client.getQueryData<ProjectData>(key)?.takes.find((take) => take.id === change.id);
      set((takes) => takes.map((take) => (take.id === change.id ? stored : take)));
      refetch ||= held?.passport.frames !== stored.passport.frames;
    } finally {
      useTakeHistory.setState(({ busy }) => ({ busy: busy.filter((id) => id !== change.id) }));
    }
  }
  if (!refetch) return;
  await client.refetchQueries({ queryKey: key });
  const data = client.getQueryData<ProjectData>(key);
  if (!data) return;
  // A take at another rate moves the cuts of its clips and of joins, on the server.
  openDocuments(CLIPS, project, data.clips);
  openDocuments(JOINS, project, data.joins);
}

/** Cuts clips where they were or will be; what else was done to them since stays. */
function cut(clips: readonly ClipChange[], side: 'before' | 'after'): void {
  const moved = new Map(clips.map((clip) => [clip.id, clip]));
  useClips.setState(({ docs }) => ({
    docs: docs.map((doc) => {
      const change = moved.get(doc.id);
      if (!change) return doc;
      const [now, then] = [change[side === 'before' ? 'after' : 'before'], change[side]];
      const isUntouched = JSON.stringify(doc.steps) === JSON.stringify(now.steps);
      // There and back is exact; steps that were changed meanwhile are brought to the other rate.
      const factor = (then.source.to - then.source.from) / (doc.source.to - doc.source.from);
      return { ...doc, source: then.source, steps: isUntouched ? then.steps : late().stepsAtRate(doc.steps, factor) };
    }),
  }));
}

/** Undo and redo of edits of takes. */
export interface TakeActs {
  undo(): Promise<void>;
  redo(): Promise<void>;
}

/** Edits of takes, with undo: optimistic where nothing has to be measured. */
export function useTakeEdits() {
  const client = useQueryClient();
  const { id: project } = useProjectInfo();
  const { enqueueSnackbar } = useSnackbar();
  return useMemo(() => {
    const run = async ({ changes, clips }: TakeEdit, side: 'before' | 'after'): Promise<boolean> => {
      try {
        await saves(() => put(client, project, changes, side));
        if (clips) cut(clips, side);
        return true;
      } catch (error) {
        if (!(error instanceof TheirsTaken))
          enqueueSnackbar(error instanceof RequestError ? error.message : 'The change could not be saved; nothing is lost.');
        void client.refetchQueries({ queryKey: projectKey(project) });
        return false;
      }
    };
    const own = () => {
      const state = useTakeHistory.getState();
      return state.project === project ? state : { past: [], future: [] };
    };
    return {
      async edit(label: string, changes: readonly TakeChange[], clips?: readonly ClipChange[]): Promise<boolean> {
        if (changes.length === 0) return true;
        const { past } = own();
        useTakeHistory.setState({ project, past: [...past, { label, changes, clips }].slice(-MOST_EDITS), future: [] });
        const done = await run({ label, changes, clips }, 'after');
        if (!done) useTakeHistory.setState(({ past: now }) => ({ past: now.slice(0, -1) }));
        return done;
      },
      async undo(): Promise<void> {
        const { past, future } = own();
        const last = past.at(-1);
        if (!last) return;
        useTakeHistory.setState({ project, past: past.slice(0, -1), future: [last, ...future] });
        if (await run(last, 'before')) enqueueSnackbar(`Undone: ${last.label}.`);
      },
      async redo(): Promise<void> {
        const { past, future } = own();
        const [next] = future;
        if (!next) return;
        useTakeHistory.setState({ project, past: [...past, next], future: future.slice(1) });
        await run(next, 'after');
      },
    };
  }, [client, enqueueSnackbar, project]);
}

/** The change that gives some takes a new value of some fields. */
export const changesOf = (takes: readonly TakeInfo[], patch: (take: TakeInfo) => TakePatch): TakeChange[] =>
  takes.map((take) => {
    const after = patch(take);
    const before = Object.fromEntries(Object.keys(after).map((key) => [key, take[key as keyof TakePatch]]));
    return { id: take.id, before, after };
  });
