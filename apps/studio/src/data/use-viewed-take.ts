'use client';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import type { OpenTake } from '@/worker/core.worker';
import { openLong, readCurves } from './long-take';
import { usePlayer } from './player';
import type { TakeInfo } from './project';
import { takeKey, useOpenTake } from './use-open-take';

/** Whether a take comes in parts. At another rate its frames lie between the stored ones, and across the edges of parts: then it is opened whole. */
export const isInParts = (take: TakeInfo): boolean => take.long && take.overrides.conform === undefined;

/**
 * A take to look at: short ones are opened whole, long ones with their first pose at once and the rest in parts as it is needed.
 * Nothing is computed from a long take here; the Bench opens all of it.
 */
export function useViewedTake(take: TakeInfo | null): { data: OpenTake | undefined; error: Error | null; isFetching: boolean } {
  const isLong = take !== null && isInParts(take);
  const whole = useOpenTake(isLong ? null : take);
  const key = [take && takeKey(take)];
  const long = useQuery({
    queryKey: ['long-take', ...key],
    enabled: isLong,
    staleTime: Infinity,
    queryFn: () => {
      if (!take) throw new Error('no take');
      return openLong(take);
    },
  });
  const curves = useQuery({
    queryKey: ['long-take-curves', ...key],
    enabled: isLong && long.data !== undefined,
    staleTime: Infinity,
    queryFn: () => {
      if (!take) throw new Error('no take');
      return readCurves(take);
    },
  });
  // A part is asked for as soon as the playhead is in it, not only when it is to be drawn.
  const part = long.data?.motion.part;
  useEffect(() => part && usePlayer.subscribe(({ frame }) => void part(frame)), [part]);
  const joined = useMemo(() => (long.data ? { ...long.data, ...curves.data } : undefined), [long.data, curves.data]);
  return isLong ? { data: joined, error: long.error, isFetching: long.isFetching } : whole;
}
