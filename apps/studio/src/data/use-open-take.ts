'use client';
import { useQuery } from '@tanstack/react-query';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { TakeInfo } from './project';

/** A take opened in the worker, with what is drawn of it, or the same without what was overruled. Kept for as long as it is in use and a while after. */
export function useOpenTake(take: TakeInfo | null, asFound = false) {
  return useQuery<OpenTake>({
    queryKey: ['open-take', take?.id, asFound ? 'as found' : JSON.stringify(take?.overrides)],
    enabled: take !== null,
    staleTime: Infinity,
    gcTime: 5 * 60_000,
    queryFn: async () => {
      if (!take) throw new Error('no take');
      return core().openTake(asFound ? { ...sourceOf(take), overrides: {}, as: `${take.id} as found` } : sourceOf(take));
    },
  });
}

export const sourceOf = ({ id, skeleton, fps, moving, passport, overrides }: TakeInfo) => ({
  id,
  skeleton,
  fps,
  moving,
  overrides,
  passport: { reading: passport.reading },
});
