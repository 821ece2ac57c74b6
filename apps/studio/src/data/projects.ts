'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useMemo } from 'react';
import { create } from 'zustand';
import { projectBegunSchema, projectListSchema, type NewProjectInput, type ProjectRow, type ProjectStart } from '@/http/projects';
import { asJson, fetchAs, fetchJson } from './fetch-json';

export { KEPT_DAYS, PROJECT_RATES } from '@/http/project-facts';
export { newProjectInput, projectBegunSchema, type NewProjectInput, type ProjectRow } from '@/http/projects';

const KEY = ['projects'];
const NONE: readonly ProjectRow[] = [];

/** What of a project is changed in the list of all. */
interface ProjectState {
  readonly name?: string;
  readonly character?: string;
  readonly removed?: boolean;
}

interface ProjectChange {
  readonly id: string;
  readonly before: ProjectState;
  readonly after: ProjectState;
}

/** Changes of the list, for undo; what was removed earlier is brought back from the list itself. */
const useChanges = create<{ readonly past: readonly ProjectChange[]; readonly future: readonly ProjectChange[] }>()(() => ({
  past: [],
  future: [],
}));

/** All projects, the latest changed first. */
export function useProjects() {
  const { data, error, isPending } = useQuery({
    queryKey: KEY,
    queryFn: () => fetchAs(projectListSchema, '/api/projects'),
    // Their figures change wherever one works.
    refetchOnMount: 'always',
  });
  const all = data?.projects ?? NONE;
  return useMemo(
    () => ({
      projects: all.filter(({ removed }) => removed === null),
      removed: all.filter(({ removed }) => removed !== null),
      error,
      isPending,
    }),
    [all, error, isPending],
  );
}

/** Changes of the list of projects, with undo. */
export function useProjectActs() {
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const { past, future } = useChanges();
  const again = () => client.invalidateQueries({ queryKey: KEY });
  const options = { onSettled: again, onError: (error: Error) => void enqueueSnackbar(error.message, { variant: 'warning' }) };
  const noted = (change: ProjectChange) => useChanges.setState((state) => ({ past: [...state.past, change], future: [] }));
  const put = (id: string, { removed, ...own }: ProjectState) =>
    fetchJson(`/api/projects/${id}`, removed ? { method: 'DELETE' } : asJson('PATCH', { ...own, removed: false }));

  const change = useMutation({
    ...options,
    mutationFn: (own: ProjectChange) => put(own.id, own.after),
    onSuccess: (_, own) => noted(own),
  });
  const travel = useMutation({
    ...options,
    mutationFn: ([own, way]: readonly [ProjectChange, 'undo' | 'redo']) => put(own.id, way === 'undo' ? own.before : own.after),
    onSuccess: (_, [own, way]) =>
      useChanges.setState(({ past: before, future: after }) =>
        way === 'undo' ? { past: before.slice(0, -1), future: [own, ...after] } : { past: [...before, own], future: after.slice(1) },
      ),
  });
  const begin = useMutation({
    ...options,
    mutationFn: (start: ProjectStart) => fetchAs(projectBegunSchema, '/api/projects', asJson('POST', start)),
    onSuccess: ({ id }) => noted(cameIn(id)),
  });
  return {
    begin: (input: NewProjectInput) => begin.mutateAsync(input),
    copy: (id: string) => begin.mutateAsync({ copyOf: id }),
    isBeginning: begin.isPending,
    rename: ({ id, name, character }: ProjectRow, after: ProjectState) => change.mutate({ id, before: { name, character }, after }),
    remove: ({ id }: ProjectRow) => change.mutate({ id, before: { removed: false }, after: { removed: true } }),
    bringBack: ({ id }: ProjectRow) => change.mutate({ id, before: { removed: true }, after: { removed: false } }),
    /** One that was brought in from a file, or made here, is in the list now. */
    came: (id: string) => {
      noted(cameIn(id));
      return again();
    },
    undo: () => past.length > 0 && !travel.isPending && travel.mutate([past[past.length - 1], 'undo']),
    redo: () => future.length > 0 && !travel.isPending && travel.mutate([future[0], 'redo']),
    canUndo: past.length > 0,
    canRedo: future.length > 0,
  };
}

const cameIn = (id: string): ProjectChange => ({ id, before: { removed: true }, after: { removed: false } });
