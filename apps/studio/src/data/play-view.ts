'use client';
import { checkGraph, type Graph, type GraphWarning } from '@lantern/motion';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { core } from '@/worker/core';
import type { PlayAsked, PlayView } from '@/worker/core.worker';
import type { SetDoc } from './sets-store';
import type { SetMember, SetView } from './set-view';
import { ensureNamed } from './use-open-take';

/** A set as it is played. */
export interface OpenPlay {
  readonly view: PlayView | null;
  readonly asked: PlayAsked;
  /** Tells one such set from another. */
  readonly key: string;
  readonly isPending: boolean;
  readonly error: string | null;
  /** All clips are open: the worker can be asked. */
  readonly isReady: boolean;
}

/** What a set's graph plays, without what only its picture needs. */
function askedOf(doc: SetDoc, members: readonly SetMember[]): PlayAsked {
  const graph = doc.graph ?? null;
  const within = members.filter(({ doc: { id } }) => !doc.without.includes(id));
  const used = graph && new Set(graph.states.flatMap(({ plays }) => (plays && 'clip' in plays ? [plays.clip] : [])));
  const inFields = new Set(doc.fields.flatMap(({ clips }) => clips));
  return {
    graph: graph && { ...graph, comments: [], states: graph.states.map(({ name, plays }) => ({ name, plays })) },
    fields: doc.fields,
    // Without a graph all that there is may be in it.
    clips: within.filter(({ doc: { id } }) => !used || used.has(id) || inFields.has(id)).map(({ asked }) => asked),
  };
}

/** A set's graph made ready to be played; the last one stays until the next is there. */
export function usePlay(doc: SetDoc | null, members: readonly SetMember[]): OpenPlay {
  const asked = useMemo<PlayAsked>(() => (doc ? askedOf(doc, members) : { graph: null, fields: [], clips: [] }), [doc, members]);
  const key = useMemo(() => JSON.stringify(asked), [asked]);
  const { data, error, isPending, isPlaceholderData } = useQuery({
    queryKey: ['play', key],
    enabled: asked.clips.length > 0,
    staleTime: Infinity,
    gcTime: 120_000,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const wanted = new Set(asked.clips.map(({ id }) => id));
      for (const { take, doc: own } of members) if (wanted.has(own.id)) await ensureNamed(take);
      return core().drivePlay(asked);
    },
  });
  return {
    view: data ?? null,
    asked,
    key,
    isPending: isPending && asked.clips.length > 0,
    error: error?.message ?? null,
    isReady: data !== undefined && !isPlaceholderData,
  };
}

/** What the checks of a graph say. */
export function useGraphWarnings(graph: Graph | null, doc: SetDoc, { members, traits }: SetView): readonly GraphWarning[] {
  return useMemo(() => {
    // Before anything is measured nothing is missed.
    if (!graph || (members.length > 0 && traits.size === 0)) return [];
    const clips = new Map(
      members
        .filter(({ doc: { id } }) => !doc.without.includes(id))
        .map(({ doc: { id, name, steps } }) => [id, { name, isLoop: steps.some(({ kind }) => kind === 'loop') }]),
    );
    const fields = new Map(doc.fields.map(({ id, name, inputs }) => [id, { name, inputs: inputs.length }]));
    return checkGraph(graph, { clips, fields });
  }, [graph, doc, members, traits]);
}
