'use client';
import type { TakeOverrides } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { Stretch, TakeSource } from '@/worker/held';
import type { TakeInfo } from './project';

/**
 * A take opened in the worker, with what is drawn of it, or the same without what was overruled; all of it, or a stretch. Kept for as long as it is
 * in use and a while after.
 */
export function useOpenTake(take: TakeInfo | null, asFound = false, stretch?: Stretch) {
  return useQuery<OpenTake>({
    queryKey: ['open-take', take && takeKey(take, asFound ? {} : undefined, stretch)],
    enabled: take !== null,
    staleTime: Infinity,
    gcTime: 5 * 60_000,
    queryFn: async () => {
      if (!take) throw new Error('no take');
      return core().openTake(sourceOf(take, asFound ? {} : undefined, stretch));
    },
  });
}

/**
 * What a take goes by in the worker and in every question about it: another scale or rate is another motion, and an answer about the
 * one must never be given for the other.
 */
export const takeKey = (take: TakeInfo, overrides: TakeOverrides = take.overrides, stretch?: Stretch): string =>
  [
    take.id,
    JSON.stringify(Object.entries(overrides).sort()),
    ...(take.mapping && Object.keys(take.mapping).length > 0 ? [JSON.stringify(Object.entries(take.mapping).sort())] : []),
    ...(stretch ? [`${stretch.from}+${stretch.chunks}`] : []),
  ].join(' ');

export const sourceOf = (take: TakeInfo, overrides: TakeOverrides = take.overrides, stretch?: Stretch): TakeSource => ({
  key: takeKey(take, overrides, stretch),
  stretch,
  project: take.project,
  id: take.id,
  skeleton: take.skeleton,
  fps: take.fps,
  moving: take.moving,
  overrides,
  mapping: take.mapping ?? {},
  passport: { reading: take.passport.reading },
});

/** Opens a take in the worker, without asking what is drawn of it. */
export async function ensureOpen(take: TakeInfo): Promise<void> {
  await core().open(sourceOf(take));
}
