'use client';
import type { AgainstSource, ClipFigures } from '@lantern/motion';
import { useQueries } from '@tanstack/react-query';
import type { ClipDoc } from '@/data/clips-store';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { Strip } from '@/worker/strip';

export interface Readiness {
  readonly figures: ClipFigures | null;
  /** Beside what was captured. */
  readonly against: AgainstSource | null;
  readonly strip: Strip | null;
  readonly isPending: boolean;
  readonly error: string | null;
}

/** What a clip's take goes by in the worker. */
export function keyOf(takes: readonly TakeInfo[], id: string): string {
  const take = takes.find((t) => t.id === id);
  return take ? takeKey(take) : id;
}

/** Every clip's figures at the rate it would ship at. */
export function useReadiness(docs: readonly ClipDoc[], takes: readonly TakeInfo[], fps: number): readonly Readiness[] {
  const whole = useWholeSteps();
  const stepsOf = (doc: ClipDoc) =>
    whole(
      doc.steps,
      takes.find((t) => t.id === doc.source.take),
    );
  const results = useQueries({
    queries: docs.map((doc) => ({
      queryKey: ['readiness', keyOf(takes, doc.source.take), doc.source.from, doc.source.to, JSON.stringify(stepsOf(doc)), fps],
      staleTime: Infinity,
      retry: false,
      queryFn: async () => {
        const take = takes.find((t) => t.id === doc.source.take);
        if (!take) throw new Error('The take of this clip is not in the project.');
        await ensureOpen(take);
        return core().figures(takeKey(take), { from: doc.source.from, to: doc.source.to, steps: stepsOf(doc) }, fps);
      },
    })),
  });
  return results.map(({ data, isPending, error }) => ({
    figures: data?.figures ?? null,
    against: data?.against ?? null,
    strip: data?.strip ?? null,
    isPending,
    error: error?.message ?? null,
  }));
}
