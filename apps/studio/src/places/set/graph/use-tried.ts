'use client';
import type { Graph, Tried } from '@lantern/motion';
import { useQueries } from '@tanstack/react-query';
import { core } from '@/worker/core';
import type { OpenPlay } from '@/data/play-view';

/** What came of trying a transition: the worst of all phases. */
export interface Sounded {
  readonly tried: readonly Tried[];
  readonly popCm: number;
  readonly slideCm: number;
  /** Frames; 0 where nothing is asked that has an answer. */
  readonly answer: number;
  /** The phase at which it pops most. */
  readonly worst: Tried | null;
}

/** Every transition of a graph tried from every phase, one after the other; null where it is not known yet, or not played. */
export function useTried(graph: Graph | null, { asked, key, isReady }: OpenPlay): readonly (Sounded | null)[] {
  const found = useQueries({
    queries: (graph?.transitions ?? []).map((_, i) => ({
      queryKey: ['tried', key, i],
      enabled: isReady,
      staleTime: Infinity,
      gcTime: 120_000,
      retry: false,
      queryFn: () => core().driveTried(asked, i),
    })),
  });
  return found.map(({ data }) => (data ? sounded(data) : null));
}

function sounded(tried: readonly Tried[]): Sounded | null {
  const came = tried.filter(({ isMissing }) => !isMissing);
  if (came.length === 0) return null;
  const worst = came.reduce((a, b) => (b.popCm > a.popCm ? b : a));
  return {
    tried,
    popCm: worst.popCm,
    slideCm: Math.max(...came.map(({ slideCm }) => slideCm)),
    answer: Math.max(...came.map(({ answer }) => answer)),
    worst,
  };
}
