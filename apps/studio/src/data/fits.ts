'use client';
import type { FitOverrides, RecipeStep } from '@lantern/motion';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useMemo } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { core } from '@/worker/core';
import type { CharacterView } from '@/worker/core.worker';
import { sendOrAsk } from './disputes';
import { fetchJson, RequestError } from './fetch-json';
import { inOrder } from './in-order';
import { projectKey, useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from './project';
import { late } from './late';

const NO_STEPS = (steps: readonly RecipeStep[]) => steps;

/** Puts what is saved for a take's suit into the steps of a clip of it. */
export function useWholeSteps(): (steps: readonly RecipeStep[], take: TakeInfo | null | undefined) => readonly RecipeStep[] {
  const { data } = useProjectData();
  const fits = data?.fits;
  return useMemo(() => {
    if (!fits || fits.length === 0) return NO_STEPS;
    const saved = fits.map(({ source, character, settings }) => ({ source, character, ...settings }));
    return (steps: readonly RecipeStep[], take: TakeInfo | null | undefined) =>
      take ? late().withFits(steps, take.signature, saved) : steps;
  }, [fits]);
}

/** What a character looks like; kept while the page is open. */
export function useCharacter(id: string | null) {
  const project = useProjectInfo();
  return useQuery<CharacterView>({
    queryKey: ['character', project.id, id],
    enabled: id !== null,
    staleTime: Infinity,
    gcTime: Infinity,
    retry: 1,
    queryFn: () => core().character(project.id, id ?? ''),
  });
}

interface FitChange {
  readonly source: string;
  readonly character: string;
  readonly before: FitOverrides;
  readonly after: FitOverrides;
}

interface FitHistory {
  readonly project: string | null;
  readonly past: readonly FitChange[];
  readonly future: readonly FitChange[];
}

type Settings = Readonly<Record<string, unknown>>;

const MOST_CHANGES = 100;
const saves = inOrder();

/** The history of the Fit place; plain data, kept in the browser so that undo survives a reload. */
const useFitHistory = create<FitHistory>()(
  persist((): FitHistory => ({ project: null, past: [], future: [] }), { name: 'old-lantern.fit-edits' }),
);

/** Changes of what is settled for a suit and a character, with undo; what is seen changes at once. */
export function useFitEdits() {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const [past, future] = [
    useFitHistory((s) => (s.project === project.id ? s.past : NONE)),
    useFitHistory((s) => (s.project === project.id ? s.future : NONE)),
  ];
  return useMemo(() => {
    const put = ({ source, character }: FitChange, before: FitOverrides, settings: FitOverrides) => {
      const key = projectKey(project.id);
      client.setQueryData<ProjectData>(key, (data) => {
        if (!data) return data;
        const others = data.fits.filter((fit) => fit.source !== source || fit.character !== character);
        return { ...data, fits: [...others, { source, character, settings }] };
      });
      const send = (from: object) =>
        fetchJson(`/api/projects/${project.id}/fits`, {
          method: 'PUT',
          body: JSON.stringify({ source, character, settings, before: from }),
        });
      const refetch = () => void client.refetchQueries({ queryKey: key });
      saves(async () => {
        const sent = await sendOrAsk(
          `the fit to ${character}`,
          settings,
          before,
          send,
          ({ fit }) => (fit as { settings: Settings }).settings,
        );
        // What others set meanwhile is there too.
        if (sent === null) refetch();
      }).catch((error: unknown) => {
        refetch();
        enqueueSnackbar(error instanceof RequestError ? `The fit is not saved: ${error.message}` : 'The fit could not be saved.', {
          variant: 'error',
        });
      });
    };
    return {
      edit(change: FitChange): void {
        useFitHistory.setState({ project: project.id, past: [...past, change].slice(-MOST_CHANGES), future: [] });
        put(change, change.before, change.after);
      },
      undo(): void {
        const last = past.at(-1);
        if (!last) return;
        useFitHistory.setState({ project: project.id, past: past.slice(0, -1), future: [last, ...future] });
        put(last, last.after, last.before);
      },
      redo(): void {
        const [next] = future;
        if (!next) return;
        useFitHistory.setState({ project: project.id, past: [...past, next], future: future.slice(1) });
        put(next, next.before, next.after);
      },
      canUndo: past.length > 0,
      canRedo: future.length > 0,
    };
  }, [client, enqueueSnackbar, project.id, past, future]);
}

const NONE: readonly FitChange[] = [];
