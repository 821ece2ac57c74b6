'use client';
import type { TakeOverrides } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { MotionSource, Stretch } from '@/worker/open-source';
import { LRUCache } from 'lru-cache';
import type { JoinedFrom, TakeInfo } from './project';

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
    ...(take.join ? [joinNumber(take.join)] : []),
    JSON.stringify(Object.entries(overrides).sort()),
    ...(take.mapping && Object.keys(take.mapping).length > 0 ? [JSON.stringify(Object.entries(take.mapping).sort())] : []),
    ...(stretch ? [`${stretch.from}+${stretch.chunks}`] : []),
  ].join(' ');

/** @throws Error a sentence where it is a join that cannot be made */
export function sourceOf(take: TakeInfo, overrides: TakeOverrides = take.overrides, stretch?: Stretch): MotionSource {
  const { join, project, id, skeleton, fps, moving, mapping = {}, passport } = take;
  const key = takeKey(take, overrides, stretch);
  if (!join) return { key, stretch, project, id, skeleton, fps, moving, overrides, mapping, passport: { reading: passport.reading } };
  if ('problem' in join) throw new Error(join.problem);
  return { key, project, mapping, character: join.character, join: join.asked, opens: join.opens.map((open) => sourceOf(open)) };
}

/** States of joins that were seen while the page was open, each with a number of its own. */
const joinStates = new LRUCache<string, number>({ max: 200 });
const joinNumbers = new WeakMap<JoinedFrom, number>();
let newest = 0;

/** A join is another motion as soon as anything of it has changed; what was worked out of a state is found again when it comes back. */
function joinNumber(join: JoinedFrom): number {
  const known = joinNumbers.get(join);
  if (known !== undefined) return known;
  const state = JSON.stringify('asked' in join ? [join.asked, join.opens.map((open) => takeKey(open))] : join);
  const number = joinStates.get(state) ?? ++newest;
  joinStates.set(state, number);
  joinNumbers.set(join, number);
  return number;
}

/** What has been opened since the page was: the worker opens it again by itself when it had to let it go. */
const opened = new Map<string, Promise<void>>();

/** Says to the worker what a take is: it loads it by itself once something that is asked of it needs it. */
export const ensureNamed = (take: TakeInfo): Promise<void> => core().named(sourceOf(take));

/** Opens a take in the worker, without asking what is drawn of it. */
export async function ensureOpen(take: TakeInfo): Promise<void> {
  const key = takeKey(take);
  const opening = opened.get(key) ?? core().open(sourceOf(take));
  opened.set(key, opening);
  try {
    await opening;
  } catch (error) {
    opened.delete(key);
    throw error;
  }
}
